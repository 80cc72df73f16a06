/** Markups leave with their drawing: in a copy that any PDF program opens, or alone. */
import type { startMarkupExport as operation } from '@kindred/contract/markup/markup';
import type { Body } from '@kindred/contract/platform/operation';
import type { MarkupToWrite } from '@kindred/core/markup/annotations/of-markup';
import { measureOf } from '@kindred/core/markup/measure';
import { METRES_PER_POINT } from '@kindred/core/drawing/scale';
import type { LengthUnits } from '@kindred/core/platform/length';
import { sayMeasure } from '@kindred/words/measures';
import { eq } from 'drizzle-orm';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from '../portfolio/schema.ts';
import { PreparationRunner } from '../preparation/runner.ts';
import { contentFor } from '../register/files.ts';
import { visibleVersion } from '../register/versions.ts';
import { listMarkups } from './service.ts';

type Wanted = Body<typeof operation>;
const FILES = {
  pdf: { ending: ' with markups.pdf', mediaType: 'application/pdf' },
  'flattened pdf': { ending: ' with markups drawn in.pdf', mediaType: 'application/pdf' },
  xfdf: { ending: ' markups.xfdf', mediaType: 'application/vnd.adobe.xfdf' },
} as const;

export const startMarkupExport = (platform: Platform, actor: Member, versionId: string, wanted: Wanted) =>
  change(platform, actor, async (unit) => {
    const version = await visibleVersion(unit.db, actor, versionId);
    if (version.kind !== 'drawing')
      throw refused('no-drawing', 'Markups leave with a PDF, and this version is none. Nothing was begun.');
    return startLongJob(unit, actor, {
      kind: 'markup export',
      name: `${version.container.code}${FILES[wanted.as].ending}`,
      path: `sheets/${version.containerId}?version=${version.number}`,
      data: { versionId, ...wanted },
    });
  });

export const markupExport: LongJobKind<Wanted & { versionId: string }> = {
  kind: 'markup export',
  async run(platform, { data: { versionId, as, page }, owner, progress }) {
    const version = await visibleVersion(platform.db, owner, versionId);
    const [project] = await platform.db.select().from(projects).where(eq(projects.id, owner.projectId));
    const all = await listMarkups(platform, owner, versionId);
    const list = all
      .filter((markup) => !markup.draft && (page === undefined || markup.page === page))
      .map(({ id, page: on, shape, style, text, status, author, createdAt, metresPerPoint }): MarkupToWrite => {
        const measure = measureOf(shape, metresPerPoint ?? METRES_PER_POINT);
        const onPaper = metresPerPoint === null && (measure?.of === 'length' || measure?.of === 'area');
        const units = project as { units: LengthUnits; inchFraction: number };
        const said = measure && `${sayMeasure(measure, units)}${onPaper ? ' on paper' : ''}`;
        const words = [said, text].filter(Boolean).join(' · ');
        return { id, page: on, shape, style, text: words, status, author: author.name, createdAt };
      });
    await progress(0.1);
    const content = await markedCopy(platform, await contentFor(platform, owner, version), { list, as });
    const { ending, mediaType } = FILES[as];
    return { name: `${version.container.code}${ending}`, mediaType, content: Readable.from([content]) };
  },
};

/** PDFs are read in a process of their own, whoever asks. */
async function markedCopy(
  { config, store }: Platform,
  sha256: string,
  markups: { list: MarkupToWrite[]; as: Wanted['as'] },
): Promise<Buffer> {
  const runner = new PreparationRunner(config.preparation);
  try {
    return await runner.withOutput(async (output) => {
      const answer = await store.withFile(sha256, (file) =>
        runner.run({ kind: 'drawing', path: file, markups, output }, () => undefined),
      );
      if (answer.state !== 'ready') throw refused('markups-not-written', answer.note);
      return fs.readFile(path.join(output, 'marked'));
    });
  } finally {
    runner.end();
  }
}
