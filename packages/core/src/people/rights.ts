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

/** The cells of the grid that open something; tests hold each to it. Whoever is in a project sees its details. */
export const RIGHTS: Record<Kind, readonly Action[]> = {
  project: ['change'],
  people: ['see', 'add', 'change', 'manage'],
  naming: ['see', 'change', 'manage'],
  register: ['see', 'add', 'change', 'delete', 'manage'],
  markup: ['see', 'add', 'change'],
  scene: ['see', 'add'],
  issues: ['see', 'add', 'change'],
  review: ['see', 'add'],
  transmittal: ['see', 'add', 'manage'],
};

/** Rights of one person in one project; a project administrator has all of them whatever the roles say. */
export interface Standing {
  administrator: boolean;
  grids: Grid[];
}

export function allows(standing: Standing, { kind, action }: Right): boolean {
  return standing.administrator || standing.grids.some((grid) => grid[kind]?.includes(action) ?? false);
}

/** Nobody gives more than they have: whether all of a grid is within what somebody may do themselves. */
export const isWithin = (standing: Standing, grid: Grid): boolean =>
  KINDS.every((kind) =>
    RIGHTS[kind].every((action) => !grid[kind]?.includes(action) || allows(standing, { kind, action })),
  );

/** The union of all grids, for showing a person what they may do. */
export function effectiveGrid(standing: Standing): Grid {
  const grid: Grid = {};
  for (const kind of KINDS) {
    const actions = ACTIONS.filter((action) => allows(standing, { kind, action }));
    if (actions.length) grid[kind] = actions;
  }
  return grid;
}

/** The stages of the work, which a person's membership may be limited to. */
export const WORK_AREAS = ['Set up', 'Exchange', 'Examine', 'Resolve', 'Send'] as const;
export type WorkArea = (typeof WORK_AREAS)[number];
