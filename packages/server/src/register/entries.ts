/** The register as people see it: entries filtered, sorted, grouped, a page at a time. */
import type { Container, ContainerGroup, RegisterQuery } from '@kindred/contract/register/register';
import { MOST_GROUPS } from '@kindred/contract/platform/limits';
import { CONTAINER_GROUPS } from '@kindred/contract/register/register';
import { and, eq, getTableColumns, gt, gte, isNotNull, isNull, lt, sql, type SQL } from 'drizzle-orm';
import { alias, type PgColumn } from 'drizzle-orm/pg-core';
import { personsById } from '../identity/persons.ts';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, refused } from '../platform/errors.ts';
import { hotJson, hotList, type HeldValues } from '../platform/hot-list.ts';
import { JsonText } from '../platform/json-text.ts';
import { keyset, page, positionOf } from '../platform/keyset.ts';
import { containing, wordsBeginning } from '../platform/like.ts';
import type { Platform } from '../platform/services.ts';
import { isNarrowedByFolders, levelOver, levelKey, levelValues } from './levels.ts';
import { entries, folders } from './schema.ts';
import { visibilityKey, visibilityValues, visibleTo, visibleWithFolders } from './visibility.ts';

export type Entry = typeof entries.$inferSelect;

/**
 * Derives the entries of some containers anew from their versions. Whoever calls holds the locks of these containers
 * (`lockContainers`), so that no two derive the same at once.
 */
export async function refreshEntries(db: Db, containerIds: readonly string[]): Promise<void> {
  if (!containerIds.length) return;
  const ids = sql`${`{${containerIds.join()}}`}::uuid[]`;
  await db.execute(sql`delete from entries where container_id = any(${ids})`);
  const newest = (condition: SQL) => sql`(select * from versions v
    where v.container_id = c.id and v.sequence = 'in sequence' and ${condition} order by v.number desc limit 1)`;
  await db.execute(sql`
    insert into entries (container_id, audience, project_id, folder_id, team_id, code, fields, at_intake, reserved_by, reserved_at,
      conflicting, version_id, version_number, state, kind, file_name, title, status, revision, classification, description,
      preparation, preparation_note, sheets, shared_sheets, size, delivered_at, delivered_by)
    select c.id, e.audience, c.project_id, c.folder_id, c.team_id, c.code, c.fields, c.at_intake, c.reserved_by, c.reserved_at,
      case when e.audience = 'others' then 0
           else (select count(*) from versions v where v.container_id = c.id and v.sequence = 'conflicting') end,
      e.id, e.number, e.state, e.kind, e.file_name, e.title, e.status, e.revision, e.classification, e.description,
      e.preparation, e.preparation_note, e.sheets,
      case when e.share_set_id is not null and e.kind = 'drawing' then
        (select count(*) from sheets s join share_sets chosen on chosen.id = e.share_set_id
          where s.version_id = e.id and s.number = any(chosen.sheet_numbers)) end,
      e.size, e.delivered_at, e.delivered_by
    from containers c cross join lateral (
      select c.team_id is not null and exists (select 1 from versions v where v.container_id = c.id
        and (v.sequence = 'conflicting' or (v.state = 'work in progress' and v.id = (select id from ${newest(sql`true`)} n)))) as private
    ) own cross join lateral (
      select case when own.private then 'team' else 'all' end as audience, v.* from ${newest(sql`true`)} v
      union all
      select 'others', s.* from ${newest(sql`v.state <> 'work in progress'`)} s where own.private
    ) e where c.id = any(${ids}) and c.removed_at is null`);
}

const reserver = alias(users, 'reserver');
const { containerId, audience, projectId, fields, words, deliveredBy, reservedBy, sheets, sharedSheets, ...columns } =
  getTableColumns(entries);
void [audience, projectId, fields, words, deliveredBy, reservedBy];

/** The values in `selectListed`: what is asked often replaces them by placeholders. */
const listedValues = (actor: Member): HeldValues => ({ team: actor.teamId, ...levelValues(actor) });

/** Entries as the actor sees them, in one statement: the names of people and what the actor may do come along. */
function selectListed(db: Db, actor: Member, values: HeldValues) {
  const seen = actor.standing.administrator
    ? sheets
    : sql`case when ${entries.teamId} = ${values.team}::uuid then ${sheets} else coalesce(${sharedSheets}, ${sheets}) end`;
  const listed: Record<keyof Container, PgColumn | SQL> = {
    id: containerId,
    ...columns,
    sheets: seen,
    deliveredBy: users.name,
    reservedBy: reserver.name,
    level: levelOver(actor, values),
  };
  const named = Object.entries(listed).map(([name, column]) => [name, sql`${column}`.as(name)] as const);
  const select = db
    .select(Object.fromEntries(named))
    .from(entries)
    .innerJoin(users, eq(users.id, entries.deliveredBy))
    .leftJoin(reserver, eq(reserver.id, entries.reservedBy))
    .$dynamic();
  return isNarrowedByFolders(actor) ? select.innerJoin(folders, eq(folders.id, entries.folderId)) : select;
}

export async function containerOf(db: Db, actor: Member, id: string): Promise<Container> {
  return requireRow(await containersOf(db, actor, [id]), 'container');
}

/** Those whose current version is one of these, in the order of the ids. */
export async function lookUpVersions(db: Db, actor: Member, versionIds: readonly string[]): Promise<Container[]> {
  const found = await listedWhere(db, actor, sql`${entries.versionId} = any(${`{${versionIds.join()}}`}::uuid[])`);
  const byVersion = new Map(found.map((container) => [container.versionId, container]));
  return [...new Set(versionIds)].flatMap((id) => byVersion.get(id) ?? []);
}

export async function containersOf(db: Db, actor: Member, ids: readonly string[]): Promise<Container[]> {
  if (!ids.length) return [];
  return listedWhere(db, actor, sql`${entries.containerId} = any(${`{${ids.join()}}`}::uuid[])`);
}

async function listedWhere(db: Db, actor: Member, where: SQL): Promise<Container[]> {
  const listed = selectListed(db, actor, listedValues(actor)).where(and(visibleTo(actor), where));
  const { rows } = await db.execute<{ container: Container }>(
    sql`select row_to_json(listed) as container from ${listed.as('listed')}`,
  );
  return rows.map(({ container }) => container);
}

/** Words that begin like those typed, or a part of code or title. */
export function matches(typed: string): SQL {
  return matchesHeld(wordsTyped(typed));
}

interface WordsTyped {
  prefixes: unknown;
  part: unknown;
}
const wordsTyped = (typed: string): WordsTyped => ({
  prefixes: wordsBeginning(typed),
  part: containing(typed),
});
const matchesHeld = ({ prefixes, part }: WordsTyped): SQL => {
  const byPart = sql`(${entries.code} || ' ' || ${entries.title}) ilike ${part}`;
  return prefixes ? sql`(${entries.words} @@ to_tsquery('simple', ${prefixes}) or ${byPart})` : byPart;
};

/** One condition of a filter: `where` is given the values, or placeholders named like them. */
interface Condition {
  key: string;
  values: HeldValues;
  where(values: HeldValues): SQL;
}

/** Several values of a filter are separated by commas; each condition has one key, whatever the values. */
const anyOf = (column: PgColumn, name: string, text: string): Condition => ({
  key: name,
  values: { [name]: text.split(',') },
  where: (held) => sql`${column} = any(${held[name]}::${sql.raw(column.getSQLType())}[])`,
});

const LISTS = {
  kind: entries.kind,
  state: entries.state,
  status: entries.status,
  revision: entries.revision,
  classification: entries.classification,
  preparation: entries.preparation,
  deliveredBy: entries.deliveredBy,
} as const;

/** Stands for no team in filters and groups. */
const NOBODY = '00000000-0000-0000-0000-000000000000';

function conditionsOf(query: RegisterQuery): Condition[] {
  const conditions: Condition[] = [
    {
      key: query.intake ? 'intake' : 'register',
      values: {},
      where: () => (query.intake ? sql`${entries.atIntake}` : sql`not ${entries.atIntake}`),
    },
  ];
  for (const [name, column] of Object.entries(LISTS)) {
    const text = query[name as keyof typeof LISTS];
    if (text) conditions.push(anyOf(column, name, text));
  }
  if (query.teamId?.includes(NOBODY))
    conditions.push({ key: 'nobody', values: {}, where: () => isNull(entries.teamId) });
  else if (query.teamId) conditions.push(anyOf(entries.teamId, 'teamId', query.teamId));
  const { q, folderId, deep, fields, deliveredFrom, deliveredBefore, conflicting, reserved } = query;
  if (q) {
    const typed = wordsTyped(q);
    const inWords = typed.prefixes ? 'words' : 'part';
    conditions.push({
      key: inWords,
      values: { ...typed },
      where: (held) => matchesHeld({ part: held.part, prefixes: typed.prefixes && held.prefixes }),
    });
  }
  if (folderId && deep)
    conditions.push({
      key: 'below',
      values: { folderId },
      where: (
        held,
      ) => sql`${entries.folderId} in (select f.id from folders f join folders top on top.id = ${held.folderId}
        where f.project_id = top.project_id and f.first between top.first and top.last)`,
    });
  else if (folderId) conditions.push(anyOf(entries.folderId, 'folderId', folderId));
  if (fields)
    conditions.push({
      key: 'fields',
      values: { fields: JSON.stringify(fieldsOf(fields)) },
      where: (held) => sql`${entries.fields} @> ${held.fields}::jsonb`,
    });
  if (deliveredFrom)
    conditions.push({
      key: 'from',
      values: { from: new Date(deliveredFrom) },
      where: ({ from }) => gte(entries.deliveredAt, from as Date),
    });
  if (deliveredBefore)
    conditions.push({
      key: 'before',
      values: { before: new Date(deliveredBefore) },
      where: ({ before }) => lt(entries.deliveredAt, before as Date),
    });
  if (conflicting) conditions.push({ key: 'conflicting', values: {}, where: () => gt(entries.conflicting, 0) });
  if (reserved) conditions.push({ key: 'reserved', values: {}, where: () => isNotNull(entries.reservedBy) });
  return conditions;
}

/** Parts of names that are sought, as JSON: `{"Form":"D"}`. */
function fieldsOf(text: string): Record<string, string> {
  try {
    const value: unknown = JSON.parse(text);
    if (value && typeof value === 'object' && Object.values(value).every((part) => typeof part === 'string'))
      return value as Record<string, string>;
  } catch {
    // falls through to the refusal
  }
  throw refused('bad-fields', 'The filter by parts of names cannot be read. Clear it and choose again.');
}

const holders = (values: HeldValues): HeldValues =>
  Object.fromEntries(Object.keys(values).map((name) => [name, sql.placeholder(name)]));

/** The values of a filter for this actor, its key, and the conditions with placeholders. */
function filterFor(actor: Member, query: RegisterQuery, visible: typeof visibleWithFolders) {
  const conditions = conditionsOf(query);
  const visibility = visibilityValues(actor);
  return {
    key: [visibilityKey(actor), levelKey(actor), ...conditions.map(({ key }) => key)].join(),
    values: Object.assign({}, visibility, ...conditions.map(({ values }) => values)) as HeldValues,
    where: () =>
      and(
        visible(actor, holders(visibility) as typeof visibility),
        ...conditions.map(({ values, where }) => where(holders(values))),
      ),
  };
}

/** A page of the register, each container as the JSON that the database made of it: nobody on the way reads what is in it. */
async function pageOfContainers({ db, pool }: Platform, actor: Member, query: RegisterQuery) {
  const { limit = 100, sort = 'code', descending = false, after } = query;
  const column = entries[sort];
  const filter = filterFor(actor, query, visibleWithFolders);
  const last = after ? positionOf(column, entries.code, after) : undefined;
  const listed = listedValues(actor);
  const rows = await hotJson(
    pool,
    `list,${sort},${descending},${last !== undefined},${filter.key}`,
    () => {
      const position = keyset(column, entries.code, descending, last && (holders({ value: 0, tie: 0 }) as never));
      return selectListed(db, actor, holders(listed))
        .where(and(filter.where(), position.where))
        .orderBy(...position.orderBy)
        .limit(sql.placeholder('limit') as never);
    },
    { ...filter.values, ...listed, ...last, limit: limit + 1 },
  );
  return page(rows, limit, (json) => {
    const container = JSON.parse(json) as Container;
    return [container[sort], container.code];
  });
}

export async function listContainers(
  platform: Platform,
  actor: Member,
  query: RegisterQuery,
): Promise<JsonText<{ items: Container[]; next: string | null }>> {
  const { items, next } = await pageOfContainers(platform, actor, query);
  return new JsonText(`{"items":[${items.join()}],"next":${JSON.stringify(next)}}`);
}

/** How many containers each value of a column has, the most frequent first. */
export async function groupContainers(
  { db, pool }: Platform,
  actor: Member,
  { by, ...query }: RegisterQuery & { by: string },
): Promise<ContainerGroup[]> {
  const filter = filterFor(actor, query, visibleTo);
  const field = by.startsWith('field:') ? by.slice('field:'.length) : undefined;
  if (!field && !(CONTAINER_GROUPS as readonly string[]).includes(by))
    throw refused('bad-group', `The register cannot be grouped by “${by}”.`);
  const column = field ? undefined : entries[by as (typeof CONTAINER_GROUPS)[number]];
  const none = by === 'teamId' ? NOBODY : '';
  const selected = { value: sql<string>`''`, count: sql<number>`count(*)::int` };
  const groups = await hotList<Omit<ContainerGroup, 'label'>>(
    pool,
    `group,${field === undefined ? by : 'field'},${filter.key}`,
    () => {
      const value = column
        ? by === 'teamId'
          ? sql<string>`coalesce(${column}, ${sql.placeholder('none')}::uuid)`
          : sql<string>`${column}`
        : sql<string>`coalesce(${entries.fields} ->> ${sql.placeholder('field')}, '')`;
      return db
        .select({ ...selected, value })
        .from(entries)
        .where(filter.where())
        .groupBy(sql`1`)
        .orderBy(sql`2 desc, 1`)
        .limit(MOST_GROUPS);
    },
    { ...filter.values, field, none },
    selected,
  );
  const people =
    by === 'deliveredBy'
      ? await personsById(
          db,
          groups.map(({ value: id }) => id),
        )
      : undefined;
  return groups.map((group) => ({ ...group, label: people?.get(group.value)?.name ?? '' }));
}

/** Whatever the filter finds, in pages, for files that are written while it is read. */
export async function* everyContainer(
  platform: Platform,
  actor: Member,
  query: RegisterQuery,
): AsyncGenerator<Container> {
  let after: string | null | undefined;
  do {
    const part = await pageOfContainers(platform, actor, { ...query, limit: 1000, ...(after && { after }) });
    for (const json of part.items) yield JSON.parse(json) as Container;
    after = part.next;
  } while (after);
}

/** The number of the version of each container that is current to the actor. */
export async function currentNumbers(
  db: Db,
  actor: Member,
  containerIds: readonly string[],
): Promise<Map<string, number>> {
  if (!containerIds.length) return new Map();
  const rows = await db
    .select({ id: entries.containerId, number: entries.versionNumber })
    .from(entries)
    .where(and(visibleTo(actor), sql`${entries.containerId} = any(${`{${containerIds.join()}}`}::uuid[])`));
  return new Map(rows.map(({ id, number }) => [id, number]));
}

/** How many containers a filter finds. */
export async function countContainers({ db, pool }: Platform, actor: Member, query: RegisterQuery): Promise<number> {
  const filter = filterFor(actor, query, visibleTo);
  const selected = { count: sql<number>`count(*)::int` };
  const [row] = await hotList<{ count: number }>(
    pool,
    `count,${filter.key}`,
    () => db.select(selected).from(entries).where(filter.where()),
    filter.values,
    selected,
  );
  return row!.count;
}
