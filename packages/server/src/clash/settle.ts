/** What a run found becomes the clashes of its rule: each known one again, groups by cause, states, and what is told of it. */
import type { ClashCounts } from '@kindred/contract/clash/clashes';
import { groupClashes, type KnownOf } from '@kindred/core/clash/group-clashes';
import { matchClashes } from '@kindred/core/clash/match-clashes';
import type { TakenPart } from '@kindred/core/clash/rule';
import type { ClashElement, RuledClash } from '@kindred/core/clash/run-rule';
import { stateAfter } from '@kindred/core/clash/states';
import { nameGroup } from '@kindred/words/clashes';
import { and, desc, eq, inArray, isNotNull, lt, ne, sql } from 'drizzle-orm';
import { issues } from '../issues/schema.ts';
import { tellOfIssue } from '../issues/telling.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { isAccepted } from './rules.ts';
import { clashes, clashGroups, clashRules, clashRuns } from './schema.ts';

type Rule = typeof clashRules.$inferSelect;
type Run = typeof clashRuns.$inferSelect;
type Row = typeof clashes.$inferSelect;
type ModelPair = Record<'a' | 'b', { containerId: string; versionId: string; title: string; code: string }>;
export interface FoundIn {
  pair: ModelPair;
  clashes: readonly RuledClash[];
  /** Of the two models, or of the one. */
  taken: readonly TakenPart[];
}
const ROWS = 1000;

/** `unseen`: pairs of models that could not be looked at; what is known of them stays as it was. */
export async function settle(
  unit: Change,
  rule: Rule,
  run: Run,
  all: readonly FoundIn[],
  unseen: readonly ModelPair[],
): Promise<void> {
  const { db } = unit;
  const found = all.flatMap(({ pair, clashes: own }) => own.map((clash) => ({ ...clash, pair })));
  const known = await db
    .select()
    .from(clashes)
    .where(eq(clashes.ruleId, rule.id))
    .orderBy(clashes.number)
    .for('update');
  const matched = matchClashes(known, found).map((k) => (k === null ? null : known[k]!));
  const groupIds = await groupsFor(db, rule, all, found, matched);
  const hasChanged = await othersTookPart(db, run);
  let number = rule.lastClash;
  const rows = found.map(({ pair, kind, a, b, depth, gap, at }, i): typeof clashes.$inferInsert => {
    const before = matched[i] ?? null;
    return {
      ...(before ?? { id: crypto.randomUUID(), number: ++number, since: now() }),
      ...{ ruleId: rule.id, groupId: groupIds[i]!, kind, a, b, depth, gap, at },
      ...{ state: stateAfter(before?.state ?? null, true, hasChanged), goneAt: null },
      ...{ aContainerId: pair.a.containerId, bContainerId: pair.b.containerId },
      ...{ aVersionId: pair.a.versionId, bVersionId: pair.b.versionId },
    };
  });
  for (let from = 0; from < rows.length; from += ROWS)
    await db
      .insert(clashes)
      .values(rows.slice(from, from + ROWS))
      .onConflictDoUpdate({ target: clashes.id, set: FROM_RUN });
  const there = new Set(matched.flatMap((row) => row?.id ?? []));
  const pairOf = (a: string, b: string): string => [a, b].sort().join();
  const kept = new Set(unseen.map(({ a, b }) => pairOf(a.containerId, b.containerId)));
  const gone = known.filter(
    ({ id, state, aContainerId, bContainerId }) =>
      state !== 'gone' && !there.has(id) && !kept.has(pairOf(aContainerId, bContainerId)),
  );
  if (gone.length)
    await db
      .update(clashes)
      .set({ state: 'gone', goneAt: now() })
      .where(
        inArray(
          clashes.id,
          gone.map(({ id }) => id),
        ),
      );
  await db.update(clashRules).set({ lastClash: number }).where(eq(clashRules.id, rule.id));
  const counts = await countsOf(db, rule.id);
  await db.update(clashRuns).set({ counts }).where(eq(clashRuns.id, run.id));
  await unit.record({
    ...{ projectId: rule.projectId, verb: 'clashes found', subjectType: 'clash rule', subjectId: rule.id },
    after: { name: rule.name, ...counts },
  });
  await proposeClosing(unit, rule, gone);
}

/** Columns that a run writes anew of a clash that was known. */
const FROM_RUN = Object.fromEntries(
  (
    [
      'groupId',
      'state',
      'kind',
      'a',
      'b',
      'aContainerId',
      'bContainerId',
      'aVersionId',
      'bVersionId',
      'depth',
      'gap',
      'at',
      'goneAt',
    ] as const
  ).map((name) => [name, sql.raw(`excluded.${clashes[name].name}`)]),
);

/** For each clash the id of its group: the one that most of its clashes were in before, else a new one. */
async function groupsFor(
  db: Db,
  rule: Rule,
  all: readonly FoundIn[],
  found: readonly (RuledClash & Pick<FoundIn, 'pair'>)[],
  matched: readonly (Row | null)[],
): Promise<string[]> {
  const elements = new Map<string, ClashElement & { model: string; containerId: string }>();
  const keyOf = (element: ClashElement, { containerId, title, code }: ModelPair['a']): string => {
    const key = `${containerId} ${element.globalId}`;
    elements.set(key, { ...element, containerId, model: title || code });
    return key;
  };
  const met = found.map(({ a, b, pair }) => ({ a: keyOf(a, pair.a), b: keyOf(b, pair.b) }));
  const elementOf = (key: string) => elements.get(key)!;
  const inAll = takenElements(all);
  const known: KnownOf = {
    type: (key) => elementOf(key).type || elementOf(key).class,
    system: (key) => elementOf(key).system ?? '',
    storey: (key) => storeyKey(elementOf(key).containerId, elementOf(key).storey),
    model: (key) => elementOf(key).containerId,
    elementsIn: (key) => inAll.get(key) ?? Infinity,
  };
  const groups = groupClashes(met, known);
  const taken = new Set<string>();
  const ids: string[] = [];
  const rows: (typeof clashGroups.$inferInsert)[] = [];
  let number = rule.lastGroup;
  for (const { cause, clashes: own } of groups) {
    const id = mostCommon(own.flatMap((i) => matched[i]?.groupId ?? []).filter((one) => !taken.has(one)));
    const name = nameGroup(
      cause,
      own.map((i) => met[i]!),
      elementOf,
      known,
    );
    const row = { id: id ?? crypto.randomUUID(), ruleId: rule.id, number: id ? 0 : ++number, name };
    taken.add(row.id);
    rows.push(row);
    for (const i of own) ids[i] = row.id;
  }
  for (let from = 0; from < rows.length; from += ROWS)
    await db
      .insert(clashGroups)
      .values(rows.slice(from, from + ROWS))
      .onConflictDoUpdate({ target: clashGroups.id, set: { name: sql`excluded.name` } });
  await db.update(clashRules).set({ lastGroup: number }).where(eq(clashRules.id, rule.id));
  return ids;
}

const storeyKey = (containerId: string, storey: string): string => storey && `${containerId} ${storey}`;
/** How many take part, by storey and by model. */
function takenElements(all: readonly FoundIn[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { pair, taken } of all)
    [pair.a, pair.b].forEach(({ containerId }, side) => {
      const onStoreys = Object.entries(taken[side]?.storeys ?? {});
      for (const [storey, count] of onStoreys) counts.set(storeyKey(containerId, storey), count);
      if (onStoreys.length)
        counts.set(
          containerId,
          onStoreys.reduce((sum, [, count]) => sum + count, 0),
        );
    });
  return counts;
}

/** Whether other versions took part than in the run before. */
async function othersTookPart(db: Db, { id, ruleId, number, versionIds }: Run): Promise<boolean> {
  const [before] = await db
    .select({ versionIds: clashRuns.versionIds })
    .from(clashRuns)
    .where(
      and(
        eq(clashRuns.ruleId, ruleId),
        eq(clashRuns.status, 'ready'),
        ne(clashRuns.id, id),
        lt(clashRuns.number, number),
      ),
    )
    .orderBy(desc(clashRuns.number))
    .limit(1);
  const same = new Set(before?.versionIds);
  return same.size !== versionIds.length || versionIds.some((one) => !same.has(one));
}

function mostCommon(ids: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const id of ids) counts.set(id, (counts.get(id) ?? 0) + 1);
  return [...counts].sort(([, p], [, q]) => q - p)[0]?.[0];
}

async function countsOf(db: Db, ruleId: string): Promise<ClashCounts> {
  const rows = await db
    .select({ state: clashes.state, accepted: isAccepted, count: sql<number>`count(*)::int` })
    .from(clashes)
    .where(eq(clashes.ruleId, ruleId))
    .groupBy(clashes.state, isAccepted);
  const counts: ClashCounts = { new: 0, standing: 0, back: 0, gone: 0, accepted: 0 };
  for (const { state, accepted, count } of rows) counts[accepted && state !== 'gone' ? 'accepted' : state] += count;
  return counts;
}

/** Of issues whose last clash went in this run, whoever raised them hears that they may be closed. */
async function proposeClosing(unit: Change, rule: Rule, gone: readonly Row[]): Promise<void> {
  const { db } = unit;
  const touched = [...new Set(gone.flatMap(({ issueId }) => issueId ?? []))];
  if (!touched.length) return;
  const left = await db
    .selectDistinct({ issueId: clashes.issueId })
    .from(clashes)
    .where(and(inArray(clashes.issueId, touched), ne(clashes.state, 'gone'), isNotNull(clashes.issueId)));
  const still = new Set(left.map(({ issueId }) => issueId));
  const rows = await db
    .select()
    .from(issues)
    .where(
      inArray(
        issues.id,
        touched.filter((id) => !still.has(id)),
      ),
    );
  for (const issue of rows)
    if (issue.status !== 'closed' && issue.status !== 'void')
      await tellOfIssue(unit, null, issue, {
        text: `The clashes of issue ${issue.number} are gone: ${issue.title}`,
        letter: `${issue.title}\n\nThe rule “${rule.name}” found none of its clashes any more. Look at it once more, then close the issue.`,
      });
}
