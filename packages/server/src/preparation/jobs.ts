import { next, type Transitions } from '@kindred/core/platform/machine';
import { preparationTransitions, type Preparation, type PreparationAction } from '@kindred/core/register/states';
import { eq } from 'drizzle-orm';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { replaceSheets } from '../drawing/service.ts';
import { sharedPages } from '../drawing/shared-sheets.ts';
import { change, type Change } from '../platform/change.ts';
import { blobs } from '../platform/schema.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';
import { containers, products, versions } from '../register/schema.ts';
import { lockContainers, markPreparation } from '../register/lineage.ts';
import { renewShareCopies } from '../register/share-sets.ts';
import { audience } from '../register/visibility.ts';
import type { PreparationAnswer } from './messages.ts';
import { PREPARE, SHARE_COPY } from './queue.ts';
import { PreparationRunner } from './runner.ts';

/** Takes versions from the queue; safe to run twice, in any number of processes. */
export async function startPreparation(platform: Platform): Promise<() => void> {
  const { processes } = platform.config.preparation;
  const idle = Array.from({ length: processes }, () => new PreparationRunner(platform.config.preparation));
  const all = [...idle];
  await platform.jobs.work<{ versionId: string }>(PREPARE, processes, async ({ versionId }) => {
    const runner = idle.pop() ?? new PreparationRunner(platform.config.preparation);
    try {
      await prepareVersion(platform, runner, versionId);
    } finally {
      idle.push(runner);
    }
  });
  const copier = new PreparationRunner(platform.config.preparation);
  await platform.jobs.work<{ versionId: string }>(SHARE_COPY, 1, ({ versionId }) =>
    makeShareCopy(platform, copier, versionId),
  );
  return () => [...all, copier].forEach((runner) => runner.stop());
}

/** Others see of a drawing only the sheets that its share set chooses; the copy for them has the other pages blank. */
async function makeShareCopy(platform: Platform, runner: PreparationRunner, versionId: string): Promise<void> {
  const row = await versionWithContainer(platform.db, versionId);
  if (!row?.version.shareSetId) return;
  const pages = (await sharedPages(platform.db, [versionId])).get(versionId)!;
  await withFolder(async (output) => {
    const { sha256 } = row.version;
    const task = { kind: row.version.kind, path: platform.store.localPath(sha256), sharedPages: pages, output };
    const answer = await runner.run(task, () => undefined);
    if (answer.state !== 'ready') throw new Error(`The copy for others of ${versionId} was not made.`);
    const stored = await storeProducts(platform, output, answer.products);
    await platform.db.transaction(async (db) => {
      await lockContainers(db, [row.container.id]);
      const now = (await sharedPages(db, [versionId])).get(versionId)!;
      // Chosen anew meanwhile: the next copy waits in the queue already.
      if (now.join() === pages.join()) await insertProducts(db, versionId, stored);
    });
  });
}

async function versionWithContainer(db: Db, versionId: string) {
  const [row] = await db
    .select({ version: versions, container: containers })
    .from(versions)
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(eq(versions.id, versionId));
  return row;
}

async function prepareVersion(platform: Platform, runner: PreparationRunner, versionId: string): Promise<void> {
  const row = await versionWithContainer(platform.db, versionId);
  if (!row) return;
  const { version } = row;
  let state: Preparation = version.preparation;
  const move = async (
    action: PreparationAction,
    note = '',
    also?: (unit: Change) => Promise<number>,
  ): Promise<void> => {
    const after = next(preparationTransitions as Transitions<Preparation, PreparationAction>, state, action);
    if (!after) return;
    state = after;
    await change(platform, null, async (unit) => {
      const { db, record } = unit;
      const sheets = (await also?.(unit)) ?? 0;
      await markPreparation(db, version, after, note, sheets);
      if (after === 'ready') await renewShareCopies(unit, eq(versions.id, versionId));
      const current = await versionWithContainer(db, versionId);
      if (!current) return;
      await record({
        projectId: version.projectId,
        verb: `preparation ${after}`,
        subjectType: 'version',
        subjectId: version.containerId,
        after: { version: version.number, ...(note && { note }) },
        teamId: audience(current.version, current.container.teamId),
      });
    });
  };
  await move('check');
  await withFolder(async (output) => {
    let preparing: Promise<void> = Promise.resolve();
    const answer = await runner.run(
      { kind: version.kind, path: platform.store.localPath(version.sha256), output },
      () => {
        preparing = move('prepare');
      },
    );
    await preparing;
    if (answer.state === 'ready') await finish(platform, versionId, output, answer, move);
    else if (answer.state === 'failed') await move('fail', answer.note);
  });
}

async function withFolder(run: (folder: string) => Promise<void>): Promise<void> {
  const folder = await fs.mkdtemp(path.join(os.tmpdir(), 'kindred-'));
  try {
    await run(folder);
  } finally {
    await fs.rm(folder, { recursive: true, force: true });
  }
}

type Stored = { product: string; sha256: string; size: number }[];

async function storeProducts(platform: Platform, folder: string, products: string[]): Promise<Stored> {
  const stored: Stored = [];
  for (const product of products) {
    // Read and written anew: the temporary folder may lie on another disk than the store.
    stored.push({ product, ...(await platform.store.putBytes(await fs.readFile(path.join(folder, product)))) });
  }
  return stored;
}

async function insertProducts(db: Db, versionId: string, stored: Stored): Promise<void> {
  for (const { product, sha256, size } of stored) {
    await db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
    await db
      .insert(products)
      .values({ versionId, product, sha256 })
      .onConflictDoUpdate({ target: [products.versionId, products.product], set: { sha256 } });
  }
}

async function finish(
  platform: Platform,
  versionId: string,
  output: string,
  answer: Extract<PreparationAnswer, { state: 'ready' }>,
  move: (action: PreparationAction, note: string, also: (unit: Change) => Promise<number>) => Promise<void>,
): Promise<void> {
  const stored = await storeProducts(platform, output, answer.products);
  await move('finish', answer.note, async ({ db }) => {
    await insertProducts(db, versionId, stored);
    await replaceSheets(db, versionId, answer.sheets);
    return answer.sheets.length;
  });
}
