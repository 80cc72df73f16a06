/** Runs of rules: at most one of a rule is under way. */
import type { ClashRun } from '@kindred/contract/clash/clashes';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { federationsWith } from '../federation/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { ruleRow } from './rules.ts';
import { clashRules, clashRuns } from './schema.ts';
import { seesAllOf } from './visibility.ts';

export const CLASH = 'find-clashes';
type Row = typeof clashRuns.$inferSelect;

/** Notes name models, and counts tell of them: both are for whoever sees all that took part. */
const toRun = (row: Row, seesAll: boolean): ClashRun => {
  const { id, status, pairs, done, note, askedAt, endedAt, counts } = row;
  return {
    ...{
      id,
      status,
      pairs,
      done,
      note: seesAll ? note : '',
      askedAt: askedAt.toISOString(),
      endedAt: endedAt?.toISOString() ?? null,
    },
    counts: seesAll ? counts : null,
  };
};

export const underWay = inArray(clashRuns.status, ['waiting', 'running']);

/** One that waits or runs is begun anew: it sees what just changed. */
export async function beginRun({ db, enqueue }: Change, ruleId: string): Promise<Row> {
  await db
    .update(clashRuns)
    .set({ status: 'cancelled', endedAt: now(), note: 'A newer run took its place.' })
    .where(and(eq(clashRuns.ruleId, ruleId), underWay));
  const [rule] = await db
    .update(clashRules)
    .set({ lastRun: sql`${clashRules.lastRun} + 1` })
    .where(eq(clashRules.id, ruleId))
    .returning({ number: clashRules.lastRun });
  const [row] = await db
    .insert(clashRuns)
    .values({ ruleId, number: rule!.number, status: 'waiting', askedAt: now() })
    .returning();
  await enqueue(CLASH, { runId: row!.id });
  return row!;
}

/** A version that all see is there: the rules of its federations run. */
export async function runRulesWith(unit: Change, containerIds: readonly string[]): Promise<void> {
  const federationIds = new Set<string>();
  for (const id of new Set(containerIds))
    for (const federation of await federationsWith(unit, id)) federationIds.add(federation.id);
  if (!federationIds.size) return;
  const rules = await unit.db
    .select({ id: clashRules.id })
    .from(clashRules)
    .where(inArray(clashRules.federationId, [...federationIds]));
  for (const { id } of rules) await beginRun(unit, id);
}

export const startClashRun = (platform: Platform, actor: Member, ruleId: string): Promise<ClashRun> =>
  change(platform, actor, async (unit) => {
    await ruleRow(unit.db, actor.projectId, ruleId);
    return toRun(await beginRun(unit, ruleId), true);
  });

export async function cancelClashRun({ db }: Platform, actor: Member, ruleId: string): Promise<ClashRun> {
  await ruleRow(db, actor.projectId, ruleId);
  const [row] = await db
    .update(clashRuns)
    .set({ status: 'cancelled', endedAt: now() })
    .where(and(eq(clashRuns.ruleId, ruleId), underWay))
    .returning();
  if (!row) throw refused('run-ended', 'No run of this rule is under way.');
  return toRun(row, true);
}

export async function listClashRuns(
  { db }: Platform,
  actor: Member,
  ruleId: string,
  asked: PageAsked,
): Promise<{ items: ClashRun[]; next: string | null }> {
  await ruleRow(db, actor.projectId, ruleId);
  const { where, orderBy, limit } = pageOf(clashRuns.number, clashRuns.number, true, asked);
  const rows = await db
    .select({ run: clashRuns, seesAll: seesAllOf(actor) })
    .from(clashRuns)
    .where(and(eq(clashRuns.ruleId, ruleId), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ run }) => [run.number, String(run.number)]);
  return { items: items.map(({ run, seesAll }) => toRun(run, seesAll)), next };
}

/** By rule. */
export async function lastRuns(db: Db, actor: Member, ruleIds: readonly string[]): Promise<Map<string, ClashRun>> {
  if (!ruleIds.length) return new Map();
  const rows = await db
    .selectDistinctOn([clashRuns.ruleId], { run: clashRuns, seesAll: seesAllOf(actor) })
    .from(clashRuns)
    .where(inArray(clashRuns.ruleId, [...ruleIds]))
    .orderBy(clashRuns.ruleId, desc(clashRuns.number));
  return new Map(rows.map(({ run, seesAll }) => [run.ruleId, toRun(run, seesAll)]));
}
