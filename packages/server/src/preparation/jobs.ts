import type { TaughtLayout } from '@kindred/core/drawing/taught-layout';
import { next, type Transitions } from '@kindred/core/platform/machine';
import { preparationTransitions, type Preparation, type PreparationAction } from '@kindred/core/register/states';
import { desc, eq, sql } from 'drizzle-orm';
import path from 'node:path';
import { replaceSheets } from '../register/sheets.ts';
import { sharedPages } from '../register/shared-sheets.ts';
import { system } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import type { JobKind } from '../platform/jobs.ts';
import { blobs } from '../platform/schema.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { Encoding } from '../platform/send-blob.ts';
import type { Platform } from '../platform/services.ts';
import { containers, products, titleBlockLayouts, versions } from '../register/schema.ts';
import { lockContainers, markPreparation } from '../register/versions.ts';
import { renewShareCopies } from '../register/share-sets.ts';
import { audience } from '../register/visibility.ts';
import { COMPRESSED, type Outcome } from './messages.ts';
import { PREPARE, SHARE_COPY } from '../register/jobs.ts';
import { removeAbandonedFolders } from './own-folder.ts';
import { PreparationRunner } from './runner.ts';

const SWEEP = 'end-stranded-preparations';

/** Takes versions from the queue; safe to run twice, in any number of processes. `interrupt`: when the process ends. */
export function preparationJobs(platform: Platform): { kinds: JobKind[]; interrupt: () => void } {
  removeAbandonedFolders();
  const { processes } = platform.config.preparation;
  const newRunner = () => new PreparationRunner(platform.config.preparation);
  const idle = Array.from({ length: processes }, newRunner);
  const copier = newRunner();
  const all = [...idle, copier];
  const prepare: JobKind<{ versionId: string }> = {
    queue: PREPARE,
    parallel: processes,
    retries: 3,
    async run({ versionId }) {
      const runner = idle.pop()!;
      try {
        await prepareVersion(platform, runner, versionId);
      } finally {
        idle.push(runner);
      }
    },
    async giveUp({ versionId }, error) {
      platform.log.error({ err: error, versionId }, 'preparation gave up');
      await failPreparation(platform, versionId);
    },
  };
  const copy: JobKind<{ versionId: string }> = {
    queue: SHARE_COPY,
    parallel: 1,
    run: ({ versionId }) => makeShareCopy(platform, copier, versionId),
  };
  const sweep: JobKind = {
    queue: SWEEP,
    parallel: 1,
    cron: '* * * * *',
    run: () => endStranded(platform),
  };
  return { kinds: [prepare, copy, sweep] as JobKind[], interrupt: () => all.forEach((runner) => runner.interrupt()) };
}

/** Others see of a drawing only the sheets that its share set chooses; the copy for them has the other pages blank. */
async function makeShareCopy(platform: Platform, runner: PreparationRunner, versionId: string): Promise<void> {
  const { db, store } = platform;
  const row = await versionWithContainer(db, versionId);
  if (!row?.version.shareSetId) return;
  const { kind, sha256 } = row.version;
  const pages = (await sharedPages(db, [versionId])).get(versionId)!;
  await runner.withOutput(async (output) => {
    const answer = await store.withFile(sha256, (path) =>
      runner.run({ kind, path, sharedPages: pages, output }, () => undefined),
    );
    if (answer.state !== 'ready') throw new Error(`The copy for others of ${versionId} was not made.`);
    const stored = await storeProducts(platform, output, answer.products);
    await db.transaction(async (unit) => {
      await lockContainers(unit, [row.container.id]);
      const now = (await sharedPages(unit, [versionId])).get(versionId)!;
      // Chosen anew meanwhile: the next copy waits in the queue already.
      if (now.join() === pages.join()) await insertProducts(unit, versionId, stored);
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

type Move = (action: PreparationAction, note?: string, also?: (unit: Change) => Promise<number>) => Promise<void>;

/** Moves the preparation of a version from state to state, each in a transaction with its event. */
function mover(platform: Platform, version: VersionRow): Move {
  let state: Preparation = version.preparation;
  return async (action, note = '', also) => {
    const after = next(preparationTransitions as Transitions<Preparation, PreparationAction>, state, action);
    if (!after) return;
    state = after;
    await change(platform, system('preparation'), async (unit) => {
      const { db, record } = unit;
      const sheets = (await also?.(unit)) ?? 0;
      await markPreparation(db, version, after, note, sheets);
      if (after === 'ready') await renewShareCopies(unit, eq(versions.id, version.id));
      const current = await versionWithContainer(db, version.id);
      if (!current) return;
      await record({
        projectId: version.projectId,
        verb: `preparation ${after}`,
        subjectType: 'version',
        subjectId: version.id,
        after: { version: version.number, ...(note && { note }) },
        teamId: audience(current.version, current.container.teamId),
      });
    });
  };
}

async function prepareVersion(platform: Platform, runner: PreparationRunner, versionId: string): Promise<void> {
  const row = await versionWithContainer(platform.db, versionId);
  if (!row) return;
  const { version } = row;
  const move = mover(platform, version);
  await move('check');
  const layouts = await taughtLayouts(platform.db, version);
  await runner.withOutput(async (output) => {
    let preparing: Promise<void> = Promise.resolve();
    const answer = await platform.store.withFile(version.sha256, (path) =>
      runner.run({ kind: version.kind, path, layouts, output }, () => {
        preparing = move('prepare');
      }),
    );
    await preparing;
    if (answer.state === 'ready') await finish(platform, version, output, answer, move);
    else await move('fail', answer.note);
  });
}

/** More of them than that no page is held against. */
const MOST_LAYOUTS = 100;
export async function taughtLayouts(
  db: Db,
  { kind, projectId }: Pick<VersionRow, 'kind' | 'projectId'>,
): Promise<TaughtLayout[]> {
  if (kind !== 'drawing') return [];
  const rows = await db
    .select({ layout: titleBlockLayouts.layout })
    .from(titleBlockLayouts)
    .where(eq(titleBlockLayouts.projectId, projectId))
    .orderBy(desc(titleBlockLayouts.taughtAt))
    .limit(MOST_LAYOUTS);
  return rows.map(({ layout }) => layout);
}

/** Versions that are said to be on their way while no work for them waits or runs: whatever became of it, they can be tried again. */
async function endStranded(platform: Platform): Promise<void> {
  const { rows } = await platform.db.execute<{ id: string }>(sql`
    select v.id from versions v
    where v.preparation in ('received', 'checking', 'preparing') and v.delivered_at < now() - interval '1 minute'
      and not exists (select 1 from pgboss.job j where j.name = ${PREPARE} and j.state in ('created', 'retry', 'active')
        and j.data ->> 'versionId' = v.id::text)
    limit 500`);
  for (const { id } of rows) await failPreparation(platform, id);
}

/** What outlasts its retries ends as failed, and can be tried again by hand. */
async function failPreparation(platform: Platform, versionId: string): Promise<void> {
  const row = await versionWithContainer(platform.db, versionId);
  if (row)
    await mover(platform, row.version)(
      'fail',
      'This could not be prepared, through no fault of the file. The file is kept as it is; try again.',
    );
}

type VersionRow = typeof versions.$inferSelect;
type Stored = { product: string; encoding: Encoding; sha256: string; size: number }[];

async function storeProducts(platform: Platform, folder: string, products: string[]): Promise<Stored> {
  const stored: Stored = [];
  for (const name of products) {
    const { name: product, ext } = path.parse(name);
    const encoding = ext === COMPRESSED ? 'gzip' : '';
    stored.push({ product, encoding, ...(await platform.store.putFile(path.join(folder, name))) });
  }
  return stored;
}

async function insertProducts(db: Db, versionId: string, stored: Stored): Promise<void> {
  for (const { product, encoding, sha256, size } of stored) {
    await db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
    await db
      .insert(products)
      .values({ versionId, product, sha256, encoding })
      .onConflictDoUpdate({ target: [products.versionId, products.product], set: { sha256, encoding } });
  }
}

async function finish(
  platform: Platform,
  version: VersionRow,
  output: string,
  answer: Extract<Outcome, { state: 'ready' }>,
  move: Move,
): Promise<void> {
  const stored = await storeProducts(platform, output, answer.products);
  await move('finish', answer.note, async (unit) => {
    await insertProducts(unit.db, version.id, stored);
    await replaceSheets(unit.db, version.id, answer.sheets);
    await platform.capabilities.prepared(unit, version);
    return answer.sheets.length;
  });
}
