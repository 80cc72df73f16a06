/** Runs a rule, pair of models by pair of models: what is found of a pair is kept, so that a run that was stopped or killed goes on there. */
import type { ClashRule, RuledModel } from '@kindred/core/clash/rule';
import type { ShownPart } from '@kindred/core/federation/shown-part';
import type { RuledPair } from '@kindred/core/clash/run-rule';
import { counted } from '@kindred/words/sentence';
import { and, desc, eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { createHash } from 'node:crypto';
import { changedBetween } from '../compare/changed-elements.ts';
import { federations } from '../federation/schema.ts';
import { shownBy } from '../federation/line-ups.ts';
import { countFailedModels, sharedModelsOf, type SharedModel } from '../federation/service.ts';
import { system } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { ProblemError } from '../platform/errors.ts';
import type { JobKind } from '../platform/jobs.ts';
import type { Platform } from '../platform/services.ts';
import { keptModel } from '../preparation/kept-models.ts';
import type { KeptCarried } from '../preparation/messages.ts';
import { openPreparation, type Ask, type OpenPreparation } from '../preparation/once.ts';
import { versions } from '../register/schema.ts';
import { CLASH, underWay } from './runs.ts';
import { clashPairs, clashRules, clashRuns } from './schema.ts';
import { settle, type FoundIn } from './settle.ts';

const IDLE_MS = 20_000;

export function clashJobs(platform: Platform): { kinds: JobKind[]; interrupt: () => void } {
  let open: OpenPreparation | undefined;
  let idle: NodeJS.Timeout | undefined;
  const job: JobKind<{ runId: string }> = {
    queue: CLASH,
    parallel: 1,
    retries: 2,
    async run({ runId }) {
      clearTimeout(idle);
      open ??= openPreparation(platform);
      try {
        await run(platform, open.ask, runId);
      } finally {
        idle = setTimeout(() => {
          open?.end();
          open = undefined;
        }, IDLE_MS).unref();
      }
    },
    async giveUp({ runId }, error) {
      platform.log.error({ err: error, runId }, 'a run of clashes gave up');
      await platform.db
        .update(clashRuns)
        .set({
          status: 'failed',
          endedAt: now(),
          note: 'This ended unexpectedly. The results before it stay; run it again.',
        })
        .where(and(eq(clashRuns.id, runId), underWay));
    },
  };
  return { kinds: [job] as JobKind[], interrupt: () => open?.interrupt() };
}

/** A model with what the line-ups of the sets show of it. */
type Partner = SharedModel & {
  shown: NonNullable<RuledModel['shown']>;
  /** Hash of all that decides besides its version: conditions may ask for parts of its code, line-ups change, it may be put elsewhere. */
  about: string;
};
interface ModelPair {
  a: Partner;
  b: Partner;
}

async function run(platform: Platform, ask: Ask, runId: string): Promise<void> {
  const { db, live } = platform;
  const [begun] = await db
    .update(clashRuns)
    .set({ status: 'running' })
    .where(and(eq(clashRuns.id, runId), underWay))
    .returning();
  if (!begun) return;
  const [{ rule, federation }] = (await db
    .select({ rule: clashRules, federation: federations })
    .from(clashRules)
    .innerJoin(federations, eq(federations.id, clashRules.federationId))
    .where(eq(clashRules.id, begun.ruleId))) as [
    { rule: typeof clashRules.$inferSelect; federation: typeof federations.$inferSelect },
  ];
  const told = { projectId: rule.projectId, subjectType: 'clash run' };
  const { models, notes } = await partnersOf(db, rule, federation);
  const pairs = pairsOf(models, rule.definition);
  const versionIds = models.map(({ versionId }) => versionId);
  await db.update(clashRuns).set({ versionIds, pairs: pairs.length }).where(eq(clashRuns.id, runId));
  const found: FoundIn[] = [];
  const unseen: ModelPair[] = [];
  for (const [i, pair] of pairs.entries()) {
    const clashing = await clashesOf(db, ask, rule, pair);
    if (typeof clashing === 'string') {
      notes.push(`${pair.a.code} and ${pair.b.code}: ${clashing}`);
      unseen.push(pair);
    } else found.push({ pair, ...clashing });
    const [still] = await db
      .update(clashRuns)
      .set({ done: i + 1 })
      .where(and(eq(clashRuns.id, runId), underWay))
      .returning({ id: clashRuns.id });
    if (!still) return;
    live.announce(told);
  }
  notes.push(...emptySets(found));
  await change(platform, system('clashes'), async (unit) => {
    const [ends] = await unit.db
      .update(clashRuns)
      .set({ status: 'ready', endedAt: now(), note: notes.join(' ') })
      .where(and(eq(clashRuns.id, runId), underWay))
      .returning();
    if (!ends) return;
    await settle(unit, rule, ends, found, unseen);
    await forgetPairs(unit.db, rule.id);
  });
  live.announce(told);
}

const SETS = { a: 'first', b: 'second' } as const;

async function partnersOf(
  db: Db,
  { projectId, definition }: typeof clashRules.$inferSelect,
  federation: typeof federations.$inferSelect,
): Promise<{ models: Partner[]; notes: string[] }> {
  const shared = await sharedModelsOf(db, federation);
  const notes = shared.length ? [] : ['No model of this federation was shared yet.'];
  const failed = await countFailedModels(db, federation);
  if (failed)
    notes.push(
      `${counted(failed, 'model')} of this federation ${failed === 1 ? 'is' : 'are'} left out: what was shared last could not be prepared.`,
    );
  const shownIn = async (set: 'a' | 'b'): Promise<(containerId: string) => ShownPart | null> => {
    const { lineUpId } = definition[set];
    if (!lineUpId) return () => null;
    const shown = await shownBy(db, projectId, lineUpId);
    if (!shown)
      notes.push(
        `The line-up of the ${SETS[set]} set is not there any more, or not for everyone: the set takes nothing.`,
      );
    return shown ?? (() => ({ isLeftOut: true, levels: null, hidden: [] }));
  };
  const [a, b] = [await shownIn('a'), await shownIn('b')];
  const models = shared.map((model) => {
    const shown = { a: a(model.containerId), b: b(model.containerId) };
    return { ...model, shown, about: hashOf([model.fields, model.placing, shown]) };
  });
  return { models, notes };
}

function emptySets(found: readonly FoundIn[]): string[] {
  const taken = found.flatMap((one) => one.taken);
  if (!taken.length) return [];
  return (['a', 'b'] as const)
    .filter((set) => taken.every((part) => part[set] === 0))
    .map((set) => `The ${SETS[set]} set takes no element of these models.`);
}

/** Of how many runs what was found of pairs of models is kept. */
const KEPT_RUNS = 10;
const forgetPairs = (db: Db, ruleId: string) =>
  db.execute(sql`delete from clash_pairs pair where pair.rule_id = ${ruleId} and not exists (
    select 1 from (select version_ids from clash_runs where rule_id = ${ruleId} order by number desc limit ${KEPT_RUNS}) recent
    where pair.a_version_id = any(recent.version_ids) and pair.b_version_id = any(recent.version_ids))`);

/** Each model with each other, and with itself where that may be of interest. */
function pairsOf(models: readonly Partner[], { ignores }: ClashRule): ModelPair[] {
  const own = ignores.includes('same model') ? 1 : 0;
  return models.flatMap((a, i) => models.slice(i + own).map((b) => ({ a, b })));
}

const hashOf = (said: unknown): string => createHash('sha256').update(JSON.stringify(said)).digest('hex').slice(0, 16);
const fingerprintOf = (definition: ClashRule, { a, b }: ModelPair): string => hashOf([definition, a.about, b.about]);

/** From what was kept, or found anew; a sentence where it cannot be found. */
async function clashesOf(
  db: Db,
  ask: Ask,
  { id: ruleId, definition }: typeof clashRules.$inferSelect,
  pair: ModelPair,
): Promise<RuledPair | string> {
  const { a, b } = pair;
  const fingerprint = fingerprintOf(definition, pair);
  const key = { ruleId, fingerprint, aVersionId: a.versionId, bVersionId: b.versionId };
  const [kept] = await db
    .select({ clashes: clashPairs.clashes, taken: clashPairs.taken })
    .from(clashPairs)
    .where(
      and(
        eq(clashPairs.ruleId, ruleId),
        eq(clashPairs.fingerprint, fingerprint),
        eq(clashPairs.aVersionId, a.versionId),
        eq(clashPairs.bVersionId, b.versionId),
      ),
    );
  if (kept) return kept;
  const wanted = a === b ? [a] : [a, b];
  const models = [];
  for (const { versionId } of wanted) {
    const model = await keptModel(db, versionId);
    if (!model) return 'what these models hold is not known; prepare them again.';
    models.push(model);
  }
  const carried = await carriedFrom(db, ruleId, fingerprint, a, b);
  try {
    const parts = wanted.map(({ fields }) => fields);
    const placings = wanted.map(({ placing }) => placing);
    const shown = wanted.map((model) => model.shown);
    const question = { clashes: { rule: definition, parts, placings, shown, carried } };
    const found = await ask<RuledPair>(models, question, 'not-clashed');
    await db
      .insert(clashPairs)
      .values({ ...key, ...found, at: now() })
      .onConflictDoNothing();
    return found;
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return error.detail;
  }
}

/** What was found in earlier versions of the two, where it is known which elements changed since. */
async function carriedFrom(
  db: Db,
  ruleId: string,
  fingerprint: string,
  a: SharedModel,
  b: SharedModel,
): Promise<KeptCarried | null> {
  const [one, other] = [alias(versions, 'one'), alias(versions, 'other')];
  const earlier = await db
    .select({ pair: clashPairs })
    .from(clashPairs)
    .innerJoin(one, eq(one.id, clashPairs.aVersionId))
    .innerJoin(other, eq(other.id, clashPairs.bVersionId))
    .where(
      and(
        eq(clashPairs.ruleId, ruleId),
        eq(clashPairs.fingerprint, fingerprint),
        eq(one.containerId, a.containerId),
        eq(other.containerId, b.containerId),
      ),
    )
    .orderBy(desc(clashPairs.at))
    .limit(3);
  for (const { pair } of earlier) {
    const changedA = await changedBetween(db, pair.aVersionId, a.versionId);
    const changedB = await changedBetween(db, pair.bVersionId, b.versionId);
    if (changedA && changedB) return { a: [...changedA], b: [...changedB], clashes: pair.clashes };
  }
  return null;
}
