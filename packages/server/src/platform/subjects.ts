/**
 * The kinds of things that a project holds, and what everybody asks of a thing: its title and address, who may see it, what it is
 * related to, what waits for whom. Each capability says it of its own things; whoever lists things of all kinds asks here.
 */
import { MOST_RELATED } from '@kindred/contract/platform/limits';
import type { Right } from '@kindred/core/people/rights';
import { sql, type SQL } from 'drizzle-orm';
import type { Member } from './caller.ts';
import type { Database, Db } from './database.ts';
import { notFound } from './errors.ts';
import { JsonText } from './json-text.ts';
import { planned } from './planned.ts';

/** How things of one kind are tied to things of another. */
export interface Link {
  to: string;
  /** Over a row of this kind: it is tied to one of the things with these ids (an array of uuid). */
  touches(ids: SQL): SQL;
  /** Ids of what the thing with this id is tied to: a select of one column. */
  idsOf(id: SQL): SQL;
}

export interface Subject {
  /** Kind of thing, as the event log names it. */
  type: string;
  /** The right that it takes to see anything of this kind; every member may when absent. */
  right?: Right;
  /** The table, with the joins that the other parts need. */
  from: SQL;
  id: SQL;
  title: SQL;
  /** What else tells it apart. */
  note: SQL;
  /** Its page, below the page of the project. */
  path: SQL;
  /** When it last changed. */
  at: SQL;
  inProject(projectId: string): SQL;
  /** Which of a project's things of this kind the member may see. A thing inherits this from what it lies on. */
  visibleTo(member: Member): SQL | undefined;
  /** What it says of itself on the page of the thing that it is a part of. */
  asPart?: { of: string; title: SQL; note: SQL };
  /** For people who type words; kinds without it are not found by words. The best first. */
  search?(words: string): { where: SQL; best?: SQL; title?: SQL };
  links?: readonly Link[];
  /** What was asked, answered or sent about a version stays: a version that one of these is tied to is not removed. */
  keeps?: boolean;
  /** Things in a project that wait for somebody, or are theirs: selects with the columns of `Waiting`. */
  waiting?(member: Member): readonly SQL[];
}

/** A thing of any kind, as lists of things of all kinds show it; `link` from the root. */
export interface Thing {
  type: string;
  id: string;
  title: string;
  note: string;
  link: string;
  at: string;
}

/** `things`: how many it stands for. `path`: below the project, or from the root with a leading slash. */
export interface Waiting {
  pile: 'waiting for me' | 'mine' | 'new for me';
  type: string;
  id: string;
  title: string;
  note: string;
  path: string;
  dueOn: string | null;
  at: Date;
  things: number;
}

export interface WaitingRow {
  pile: Waiting['pile'];
  type: string;
  id: SQL;
  title: SQL;
  note: SQL;
  path: SQL;
  dueOn?: SQL;
  at: SQL;
  things?: SQL;
  /** `from … where …` */
  of: SQL;
}

/** One select of things that wait. */
export const waitingRows = ({ pile, type, id, title, note, path, dueOn, at, things, of }: WaitingRow): SQL =>
  sql`select ${pile}::text as pile, ${type}::text as type, ${id}::text as id, ${title} as title, ${note} as note, ${path} as path,
    ${dueOn ?? sql`null`}::date::text as "dueOn", ${at} as at, ${things ?? sql`1`}::int as things ${of}`;

export const uuids = (ids: Iterable<string>): SQL => sql`${`{${[...ids].join()}}`}::uuid[]`;

export const maySee = (member: Member, { right }: Subject): boolean =>
  !right ||
  member.standing.administrator ||
  member.standing.grids.some((grid) => grid[right.kind]?.includes(right.action));

/** Select of things of one kind that the member may see. */
function things(
  subject: Subject,
  member: Member,
  where: SQL,
  { title = subject.title, note = subject.note }: { title?: SQL; note?: SQL } = {},
  rest = sql``,
): SQL {
  const { type, from, id, path, at } = subject;
  return sql`(select ${type}::text as type, ${id}::text as id, ${title} as title, ${note} as note,
    ${`/projects/${member.projectId}/`}::text || ${path} as link, ${at} as at from ${from} where ${subject.inProject(member.projectId)} and ${subject.visibleTo(member) ?? sql`true`} and ${where} ${rest})`;
}

const idsOf = ({ from, id, inProject, visibleTo }: Subject, member: Member, where: SQL): SQL =>
  sql`select ${id} from ${from} where ${inProject(member.projectId)} and ${visibleTo(member) ?? sql`true`} and ${where}`;
const either = (conditions: SQL[]): SQL => sql`(${sql.join(conditions, sql` or `)})`;

const rows = async <T>(db: Database, selects: readonly SQL[], rest = sql``): Promise<T[]> =>
  selects.length ? planned<T>(db, sql`${sql.join([...selects], sql` union all `)} ${rest}`) : [];

/** Things as the JSON that goes out, which the database writes. */
async function thingsAsJson(
  db: Database,
  selects: readonly SQL[],
  rest = sql``,
  first = sql``,
): Promise<JsonText<Thing[]>> {
  const list = sql`${sql.join([...selects], sql` union all `)} ${rest}`;
  const found = selects.length
    ? await planned<{ json: string }>(db, sql`${first} select row_to_json(thing)::text as json from (${list}) thing`)
    : [];
  return new JsonText(`[${found.map(({ json }) => json).join()}]`);
}

/** Versions are what things of other kinds lie on; what lies on its versions belongs to a container. */
const CARRIER = 'version';
const FOUND_OF_A_KIND = 8;

export class Subjects {
  private readonly byType: Map<string, Subject>;
  constructor(private readonly all: readonly Subject[]) {
    this.byType = new Map(all.map((subject) => [subject.type, subject]));
  }

  get types(): string[] {
    return [...this.byType.keys()];
  }

  private of(type: string): Subject {
    const subject = this.byType.get(type);
    if (!subject) throw notFound(type);
    return subject;
  }

  /** Titles of what keeps each of these versions from being removed, by the id of the version; whoever asks. */
  async keeping(db: Db, projectId: string, versionIds: readonly string[]): Promise<Map<string, string[]>> {
    const selects = this.all.flatMap(({ type, title, from, inProject, links = [], keeps }) =>
      links
        .filter(({ to }) => keeps && to === CARRIER)
        .map(
          ({ touches }) => sql`(select kept.id::text as id, ${`${type} `}::text || ${title} as title
            from unnest(${uuids(versionIds)}) kept(id), ${from} where ${inProject(projectId)} and ${touches(sql`array[kept.id]`)})`,
        ),
    );
    const keeping = new Map<string, string[]>();
    if (!selects.length || !versionIds.length) return keeping;
    const { rows: found } = await db.execute(sql.join(selects, sql` union all `));
    for (const { id, title } of found as unknown as { id: string; title: string }[])
      keeping.set(id, [...(keeping.get(id) ?? []), title]);
    return keeping;
  }

  /** Title of the thing; 404 where the member may not see it. */
  async titleOf(db: Database, member: Member, type: string, id: string): Promise<string> {
    const subject = this.of(type);
    const [thing] = maySee(member, subject)
      ? await rows<{ title: string }>(db, [things(subject, member, sql`${subject.id} = ${id}::uuid`)])
      : [];
    if (!thing) throw notFound(type);
    return thing.title;
  }

  /** Everything that a thing is tied to, directly or through the versions that both lie on; the newest first. */
  async related(
    db: Database,
    member: Member,
    type: string,
    id: string,
  ): Promise<JsonText<{ title: string; items: Thing[] }>> {
    const start = this.of(type);
    const carrier = this.of(CARRIER);
    const ties = type === CARRIER ? [sql`${carrier.id} = ${id}::uuid`] : tiesOf(start, carrier, id);
    const reached = ties.length > 0 && maySee(member, carrier);
    const carriers = sql`(select ids from carriers)::uuid[]`;
    const selects = this.all
      .filter((subject) => maySee(member, subject))
      .flatMap((subject) => {
        const tied = tiesOf(start, subject, id);
        if (reached && subject === carrier) tied.push(sql`${subject.id} = any(${carriers})`);
        else if (reached)
          for (const link of subject.links ?? []) if (link.to === CARRIER) tied.push(link.touches(carriers));
        if (!tied.length) return [];
        const where = subject === start ? sql`${either(tied)} and ${subject.id} <> ${id}::uuid` : either(tied);
        return [things(subject, member, where, subject.asPart?.of === type ? subject.asPart : {})];
      });
    const found = reached ? idsOf(carrier, member, either(ties)) : sql`select null::uuid where false`;
    const [title, items] = await Promise.all([
      this.titleOf(db, member, type, id),
      thingsAsJson(
        db,
        selects,
        sql`order by at desc limit ${MOST_RELATED}`,
        sql`with carriers as materialized (select coalesce(array_agg(id), '{}') as ids from (${found}) c(id))`,
      ),
    ]);
    return new JsonText(`{"title":${JSON.stringify(title)},"items":${items.text}}`);
  }

  /** Things of all kinds that have these words, a few of each. */
  async search(db: Database, member: Member, words: string): Promise<JsonText<Thing[]>> {
    const selects = this.all.flatMap((subject) => {
      const search = maySee(member, subject) && subject.search?.(words);
      if (!search) return [];
      const rest = sql`order by ${search.best ?? subject.title} limit ${FOUND_OF_A_KIND}`;
      return [things(subject, member, search.where, {}, rest)];
    });
    return thingsAsJson(db, selects);
  }

  /** These things, of those that the member may see. */
  async named(db: Database, member: Member, wanted: readonly { type: string; id: string }[]): Promise<Thing[]> {
    const ids = new Map<string, string[]>();
    for (const { type, id } of wanted) ids.set(type, [...(ids.get(type) ?? []), id]);
    const selects = [...ids].flatMap(([type, some]) => {
      const subject = this.byType.get(type);
      return subject && maySee(member, subject)
        ? [things(subject, member, sql`${subject.id} = any(${uuids(some)})`)]
        : [];
    });
    const found = await rows<Omit<Thing, 'at'> & { at: Date }>(db, selects, sql`order by title`);
    return found.map((thing) => ({ ...thing, at: thing.at.toISOString() }));
  }

  /** Titles of things, by type and id as `type:id`, whoever asks: for those who may see everything. What is gone has none. */
  async titles(
    db: Database,
    projectId: string,
    wanted: Iterable<{ type: string; id: string }>,
  ): Promise<Map<string, string>> {
    const ids = new Map<string, Set<string>>();
    for (const { type, id } of wanted)
      if (this.byType.has(type) && /^[0-9a-f-]{36}$/.test(id)) ids.set(type, (ids.get(type) ?? new Set()).add(id));
    const selects = [...ids].map(([type, some]) => {
      const { from, id, title, inProject } = this.of(type);
      return sql`(select ${`${type}:`}::text || ${id} as key, ${title} as title from ${from}
        where ${inProject(projectId)} and ${id} = any(${uuids(some)}))`;
    });
    const found = await rows<{ key: string; title: string }>(db, selects);
    return new Map(found.map(({ key, title }) => [key, title]));
  }

  /** Over the event log: the event is about a thing whose title has these words. */
  aboutTitled(projectId: string, like: string, type: SQL, id: SQL): SQL {
    const found = this.all.map(
      (subject) => sql`(${type} = ${subject.type} and ${id} in (select ${subject.id}::text from ${subject.from}
        where ${subject.inProject(projectId)} and ${subject.title} ilike ${like}))`,
    );
    return found.length ? sql`(${sql.join(found, sql` or `)})` : sql`false`;
  }

  /** What waits for a member, or is theirs; the most pressing first. */
  async waiting(db: Database, member: Member, most = 300): Promise<Waiting[]> {
    return rows(db, this.waitingSelects(member), sql`order by "dueOn" asc nulls last, at desc limit ${most}`);
  }

  /** How much of each kind waits for a member, and the days when it is due. */
  async countWaiting(db: Database, member: Member): Promise<{ type: string; things: number; days: string[] }[]> {
    const selects = this.waitingSelects(member);
    if (!selects.length) return [];
    return planned(
      db,
      sql`
      select type, sum(things)::int as things, coalesce(array_agg("dueOn" order by "dueOn") filter (where "dueOn" is not null), '{}') as days
      from (${sql.join(selects, sql` union all `)}) w where pile = 'waiting for me' group by type`,
    );
  }

  private waitingSelects(member: Member): SQL[] {
    return this.all.flatMap((subject) => (maySee(member, subject) ? (subject.waiting?.(member) ?? []) : []));
  }
}

/** Conditions under which a row of `subject` is tied to the thing `id` of `start`, whichever of the two declares the link. */
function tiesOf(start: Subject, subject: Subject, id: string): SQL[] {
  const own = sql`array[${id}::uuid]`;
  const there = (subject.links ?? []).filter(({ to }) => to === start.type).map(({ touches }) => touches(own));
  const back = (start.links ?? [])
    .filter(({ to }) => to === subject.type)
    .map((link) => sql`${subject.id} in (${link.idsOf(sql`${id}::uuid`)})`);
  return [...there, ...back];
}
