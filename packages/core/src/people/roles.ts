import { CodedError } from '../platform/coded-error.ts';
import { ACTIONS, allows, KINDS, RIGHTS, type Action, type Grid, type Kind, type Right } from './rights.ts';

export interface NamedRole {
  id: string;
  name: string;
  grid: Grid;
}

/** A grid in the order of kinds and actions, without empty rows and cells that open nothing: equal grids look equal. */
export function tidyGrid(grid: Grid): Grid {
  const tidy: Grid = {};
  for (const kind of KINDS) {
    const actions = RIGHTS[kind].filter((action) => grid[kind]?.includes(action));
    if (actions.length) tidy[kind] = actions;
  }
  return tidy;
}

export const sameGrid = (a: Grid, b: Grid): boolean => JSON.stringify(tidyGrid(a)) === JSON.stringify(tidyGrid(b));

/** The grid with one right given or taken. To see a thing is a condition of everything else that is done with it. */
export function withRight(grid: Grid, kind: Kind, action: Action, given: boolean): Grid {
  const now = new Set(grid[kind]);
  if (given) now.add(action).add('see');
  else if (action === 'see') now.clear();
  else now.delete(action);
  return tidyGrid({ ...grid, [kind]: [...now] });
}

export interface Affected {
  memberId: string;
  gains: Right[];
  loses: Right[];
}

/** Whose rights change, and which, when roles become others. Administrators have all rights either way. */
export function affectedBy(
  members: readonly { id: string; administrator: boolean; roles: readonly { id: string }[] }[],
  before: readonly NamedRole[],
  after: readonly NamedRole[],
): Affected[] {
  const [was, will] = [gridsById(before), gridsById(after)];
  const rights = KINDS.flatMap((kind) => RIGHTS[kind].map((action): Right => ({ kind, action })));
  return members.flatMap((member) => {
    if (member.administrator) return [];
    const standing = (grids: Map<string, Grid>) => ({
      administrator: false,
      grids: member.roles.flatMap(({ id }) => grids.get(id) ?? []),
    });
    const [old, next] = [standing(was), standing(will)];
    const gains = rights.filter((right) => allows(next, right) && !allows(old, right));
    const loses = rights.filter((right) => allows(old, right) && !allows(next, right));
    return gains.length || loses.length ? [{ memberId: member.id, gains, loses }] : [];
  });
}

const gridsById = (roles: readonly NamedRole[]): Map<string, Grid> => new Map(roles.map(({ id, grid }) => [id, grid]));

const FORMAT = 'kindred-sheet-roles';

/** Roles as a file that people can keep, compare and bring into another project. */
export const writeRoles = (roles: readonly { name: string; grid: Grid }[]): string =>
  `${JSON.stringify({ format: FORMAT, version: 1, roles: roles.map(({ name, grid }) => ({ name, grid: tidyGrid(grid) })) }, null, 2)}\n`;

/** Throws CodedError when the file holds no roles. */
export function readRoles(text: string): { name: string; grid: Grid }[] {
  let file: { format?: unknown; roles?: unknown };
  try {
    file = JSON.parse(text) as typeof file;
  } catch {
    throw new CodedError('not-json');
  }
  if (file?.format !== FORMAT || !Array.isArray(file.roles) || !file.roles.length) throw new CodedError('no-roles');
  const names = new Set<string>();
  return file.roles.map((role: { name?: unknown; grid?: unknown } | null, i) => {
    const name = typeof role?.name === 'string' ? role.name.trim() : '';
    if (!name || name.length > 60) throw new CodedError('role-name', { number: i + 1, longest: 60 });
    if (names.has(name.toLowerCase())) throw new CodedError('role-twice', { name });
    names.add(name.toLowerCase());
    return { name, grid: readGrid(name, role!.grid) };
  });
}

function readGrid(name: string, grid: unknown): Grid {
  if (typeof grid !== 'object' || grid === null || Array.isArray(grid)) throw new CodedError('no-grid', { name });
  for (const [kind, actions] of Object.entries(grid)) {
    if (!KINDS.includes(kind as Kind)) throw new CodedError('unknown-kind', { name, kind });
    const wrong = Array.isArray(actions) ? actions.find((action) => !ACTIONS.includes(action as Action)) : actions;
    if (!Array.isArray(actions) || wrong !== undefined)
      throw new CodedError('unknown-action', { name, kind, action: String(wrong), possible: ACTIONS });
  }
  return tidyGrid(grid as Grid);
}
