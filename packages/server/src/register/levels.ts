/** What folder permissions leave of somebody's rights, said to the database: ranges of the numbered tree of folders. */
import { LEVELS, atLeast, levelIn, type Level } from '@kindred/core/register/folder-rights';
import { sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { folders } from './schema.ts';

/** The ranges of the tree in which the actor has this level, as an int4multirange. */
export function rangesWith(actor: Member, level: Level): string {
  const { decided, ceiling } = actor.folders;
  const ranges = decided.filter(({ from }) => levelIn(decided, from, ceiling) === level);
  return `{${ranges.map(({ from, to }) => `[${from},${to + 1})`).join()}}`;
}

/** Whether permissions concern the actor at all: everybody else has the same level in all folders. */
export const isNarrowedByFolders = (actor: Member): boolean => actor.folders.decided.length > 0;

/** Levels that permissions may leave: what is hidden is not there to be asked about, and nobody gets more than their roles give. */
const narrowerLevels = ({ folders: { decided, ceiling } }: Member): Level[] =>
  decided.length ? LEVELS.filter((level) => level !== 'hidden' && !atLeast(level, ceiling)) : [];

/** The values in `levelOver`: what is asked often replaces them by placeholders. */
export function levelValues(actor: Member): Record<string, unknown> {
  const ranges = narrowerLevels(actor).map((level) => [level, rangesWith(actor, level)]);
  return { ceiling: actor.folders.ceiling, ...Object.fromEntries(ranges) };
}

/** Actors of one key have the same levels to tell apart. */
export const levelKey = (actor: Member): string =>
  isNarrowedByFolders(actor) ? actor.folders.ceiling : 'the same everywhere';

/** What the actor may do in the folder of a row, over entries joined with their folders where permissions concern the actor. */
export function levelOver(actor: Member, values: Record<string, unknown>): SQL<Level> {
  const cases = narrowerLevels(actor).map(
    (level) => sql`when ${folders.first} <@ ${values[level]}::int4multirange then ${sql.raw(`'${level}'`)}`,
  );
  const otherwise = sql<Level>`${values.ceiling}::text`;
  return cases.length ? sql`case ${sql.join(cases, sql` `)} else ${otherwise} end` : otherwise;
}
