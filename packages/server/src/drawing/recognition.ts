/** Words of scans, and of sheets whose letters are drawn as outlines: recognised page by page, after the version is ready. */
import type { TitleBlock } from '@kindred/core/drawing/title-block';
import type { VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import { and, eq } from 'drizzle-orm';
import { system, type Member } from '../platform/caller.ts';
import type { PreparedVersion } from '../platform/capability.ts';
import { change, type Change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { notFound, ProblemError } from '../platform/errors.ts';
import type { JobKind } from '../platform/jobs.ts';
import type { Platform } from '../platform/services.ts';
import { taughtLayouts } from '../preparation/jobs.ts';
import { openPreparation, type OpenPreparation } from '../preparation/once.ts';
import { containers, sheets, versions } from '../register/schema.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleVersion } from '../register/versions.ts';
import { audience } from '../register/visibility.ts';

const RECOGNISE = 'recognise-words';
const waitingOf = (versionId: string) => and(eq(sheets.versionId, versionId), eq(sheets.recognition, 'waiting'));

export async function askForRecognition({ db, enqueue }: Change, { id }: PreparedVersion): Promise<void> {
  const [one] = await db.select({ page: sheets.page }).from(sheets).where(waitingOf(id)).limit(1);
  if (one) await enqueue(RECOGNISE, { versionId: id });
}

export function recognitionJobs(platform: Platform): { kinds: JobKind[]; interrupt: () => void } {
  let open: OpenPreparation | undefined;
  const recognise: JobKind<{ versionId: string }> = {
    queue: RECOGNISE,
    parallel: 1,
    retries: 2,
    async run({ versionId }) {
      open = openPreparation(platform);
      try {
        await recogniseVersion(platform, open, versionId);
      } finally {
        open.end();
        open = undefined;
      }
    },
    async giveUp({ versionId }, error) {
      platform.log.error({ err: error, versionId }, 'recognition gave up');
      await platform.db.update(sheets).set({ recognition: 'failed' }).where(waitingOf(versionId));
    },
  };
  return { kinds: [recognise] as JobKind[], interrupt: () => open?.interrupt() };
}

/** What was read before a restart stays read. */
async function recogniseVersion(platform: Platform, { prepare }: OpenPreparation, versionId: string): Promise<void> {
  const { db } = platform;
  const [row] = await db
    .select({ version: versions, teamId: containers.teamId })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(eq(versions.id, versionId));
  if (!row) return;
  const { version, teamId } = row;
  const layouts = await taughtLayouts(db, version);
  const pages = await db.select({ page: sheets.page }).from(sheets).where(waitingOf(versionId)).orderBy(sheets.page);
  if (!pages.length) return;
  for (const { page } of pages) {
    const at = and(waitingOf(versionId), eq(sheets.page, page));
    try {
      const task = { kind: version.kind, recognise: page, layouts };
      const found = JSON.parse((await prepare(version.sha256, task, 'not-recognised')).toString()) as {
        texts: VectorText[];
        titleBlock: TitleBlock;
      };
      await db
        .update(sheets)
        .set({
          recognition: found.texts.length ? 'recognised' : 'failed',
          recognisedTexts: found.texts,
          proposed: found.titleBlock,
          text: found.texts.map(({ text }) => text).join(' '),
        })
        .where(at);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      await db.update(sheets).set({ recognition: 'failed' }).where(at);
    }
  }
  await change(platform, system('preparation'), ({ record }) =>
    record({
      projectId: version.projectId,
      verb: 'words recognised',
      subjectType: 'version',
      subjectId: version.id,
      after: { version: version.number, sheets: pages.length },
      teamId: audience(version, teamId),
    }),
  );
}

/** Recognised words of a page, where they stand; empty where it needed none. */
export async function listRecognisedWords(
  { db }: { db: Db },
  member: Member,
  versionId: string,
  page: number,
): Promise<VectorText[]> {
  const version = await visibleVersion(db, member, versionId);
  const gets = await pagesFor(db, member, [version]);
  if (!gets(versionId, page)) throw notFound('sheet');
  return recognisedWordsOf(db, versionId, page);
}

export async function recognisedWordsOf(db: Db, versionId: string, page: number): Promise<VectorText[]> {
  const [row] = await db
    .select({ texts: sheets.recognisedTexts })
    .from(sheets)
    .where(and(eq(sheets.versionId, versionId), eq(sheets.page, page)));
  return row?.texts ?? [];
}
