/** Rules of clashes as people see them. */
import type {
  addClashRule as addOperation,
  changeClashRule as changeOperation,
  ClashCounts,
  ClashRule,
} from '@kindred/contract/clash/clashes';
import type { Body } from '@kindred/contract/platform/operation';
import { and, asc, eq, sql } from 'drizzle-orm';
import { federations } from '../federation/schema.ts';
import { federationRow } from '../federation/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { beginRun, lastRuns } from './runs.ts';
import { clashes, clashRules } from './schema.ts';
import { clashVisibleTo } from './visibility.ts';

type Row = typeof clashRules.$inferSelect;
const NONE: ClashCounts = { new: 0, standing: 0, back: 0, gone: 0, accepted: 0 };

/** Over clashes: accepted, and not only until a day that has passed. */
export const isAccepted = sql<boolean>`(${clashes.acceptedBy} is not null and (${clashes.acceptedUntil} is null or ${clashes.acceptedUntil} >= current_date))`;

export async function ruleRow(db: Db, projectId: string, ruleId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(clashRules)
      .where(and(eq(clashRules.projectId, projectId), eq(clashRules.id, ruleId))),
    'rule',
  );
}

export async function listClashRules({ db }: Platform, actor: Member, ruleId?: string): Promise<ClashRule[]> {
  const rows = await db
    .select({ rule: clashRules, federation: federations.name })
    .from(clashRules)
    .innerJoin(federations, eq(federations.id, clashRules.federationId))
    .where(and(eq(clashRules.projectId, actor.projectId), ruleId ? eq(clashRules.id, ruleId) : undefined))
    .orderBy(asc(federations.name), asc(clashRules.name));
  const runs = await lastRuns(
    db,
    actor,
    rows.map(({ rule }) => rule.id),
  );
  const counts = await countsByRule(db, actor);
  return rows.map(({ rule, federation }) => {
    const { id, federationId, name, edition, definition } = rule;
    return {
      ...{ id, federationId, federation, name, edition },
      ...toContent(definition),
      run: runs.get(id) ?? null,
      counts: counts.get(id) ?? NONE,
    };
  });
}

const toContent = ({ a, b, kinds, tolerance, clearance, ignores }: Row['definition']) => ({
  a: { ...a, conditions: [...a.conditions] },
  b: { ...b, conditions: [...b.conditions] },
  ...{ kinds: [...kinds], tolerance, clearance, ignores: [...ignores] },
});

async function countsByRule(db: Db, actor: Member): Promise<Map<string, ClashCounts>> {
  const rows = await db
    .select({
      ruleId: clashes.ruleId,
      state: clashes.state,
      accepted: isAccepted,
      count: sql<number>`count(*)::int`,
    })
    .from(clashes)
    .innerJoin(clashRules, eq(clashRules.id, clashes.ruleId))
    .where(and(eq(clashRules.projectId, actor.projectId), clashVisibleTo(actor)))
    .groupBy(clashes.ruleId, clashes.state, isAccepted);
  const counts = new Map<string, ClashCounts>();
  for (const { ruleId, state, accepted, count } of rows) {
    const all = counts.get(ruleId) ?? { ...NONE };
    all[accepted && state !== 'gone' ? 'accepted' : state] += count;
    counts.set(ruleId, all);
  }
  return counts;
}

const telling = ({ projectId, id, name }: Row, verb: string) => ({
  ...{ projectId, verb, subjectType: 'clash rule', subjectId: id },
  after: { name },
});

export async function addClashRule(
  platform: Platform,
  actor: Member,
  { federationId, name, ...definition }: Body<typeof addOperation>,
): Promise<ClashRule> {
  const id = await change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const { projectId } = actor;
    await federationRow(db, projectId, federationId);
    const [row] = await db
      .insert(clashRules)
      .values({ projectId, federationId, name, definition, byId: actor.id, at: now() })
      .onConflictDoNothing()
      .returning();
    if (!row) throw refused('name-taken', `This federation has a rule “${name}” already. Nothing was saved.`);
    await record(telling(row, 'made'));
    await beginRun(unit, row.id);
    return row.id;
  });
  return (await listClashRules(platform, actor, id))[0]!;
}

export async function changeClashRule(
  platform: Platform,
  actor: Member,
  ruleId: string,
  { edition, name, ...definition }: Body<typeof changeOperation>,
): Promise<ClashRule> {
  await change(platform, actor, async (unit) => {
    const { db, record } = unit;
    await ruleRow(db, actor.projectId, ruleId);
    const [row] = await db
      .update(clashRules)
      .set({ name, definition, edition: edition + 1 })
      .where(and(eq(clashRules.id, ruleId), eq(clashRules.edition, edition)))
      .returning();
    if (!row) throw conflict('Someone else changed this rule meanwhile. Nothing was saved; look at theirs first.');
    await record(telling(row, 'changed'));
    await beginRun(unit, row.id);
  });
  return (await listClashRules(platform, actor, ruleId))[0]!;
}

export const removeClashRule = (platform: Platform, actor: Member, ruleId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const row = await ruleRow(db, actor.projectId, ruleId);
    await db.delete(clashes).where(eq(clashes.ruleId, ruleId));
    await db.delete(clashRules).where(eq(clashRules.id, ruleId));
    await record(telling(row, 'removed'));
  });
