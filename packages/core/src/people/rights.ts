/** A role is a grid of rights: kinds of thing × actions. */
export const KINDS = [
  'project',
  'people',
  'naming',
  'register',
  'markup',
  'scene',
  'issues',
  'review',
  'transmittal',
] as const;
export const ACTIONS = ['see', 'add', 'change', 'delete', 'manage'] as const;

export type Kind = (typeof KINDS)[number];
export type Action = (typeof ACTIONS)[number];
export type Grid = Partial<Record<Kind, Action[]>>;

export interface Right {
  kind: Kind;
  action: Action;
}

/** Rights of one person in one project; a project administrator has all of them whatever the roles say. */
export interface Standing {
  administrator: boolean;
  grids: Grid[];
}

export function allows(standing: Standing, { kind, action }: Right): boolean {
  return standing.administrator || standing.grids.some((grid) => grid[kind]?.includes(action) ?? false);
}

/** The union of all grids, for showing a person what they may do. */
export function effectiveGrid(standing: Standing): Grid {
  const grid: Grid = {};
  for (const kind of KINDS) {
    const actions = ACTIONS.filter((action) => allows(standing, { kind, action }));
    if (actions.length) grid[kind] = actions;
  }
  return grid;
}
