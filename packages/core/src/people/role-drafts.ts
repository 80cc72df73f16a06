import type { Grid } from './rights.ts';
import { sameGrid, type NamedRole } from './roles.ts';

export interface SavedRole extends NamedRole {
  edition: number;
}

/** A role as it will be; what is not saved yet has a key of its own instead of an id. */
export interface RoleDraft {
  key: string;
  id: string | null;
  edition: number;
  name: string;
  grid: Grid;
}

/** Drafts on newly saved roles: untouched ones become what was saved, others keep what was written. */
export function rebaseRoles(
  drafts: readonly RoleDraft[],
  before: readonly SavedRole[],
  now: readonly SavedRole[],
): RoleDraft[] {
  const [old, fresh] = [before, now].map((roles) => new Map(roles.map((role) => [role.id, role]))) as [
    Map<string, SavedRole>,
    Map<string, SavedRole>,
  ];
  const kept = drafts.flatMap((draft): RoleDraft[] => {
    const [was, is] = [old.get(draft.id ?? ''), fresh.get(draft.id ?? '')];
    const touched = !was || was.name !== draft.name || !sameGrid(was.grid, draft.grid);
    if (is) return [touched ? { ...draft, edition: is.edition } : draftOfRole(is)];
    return touched ? [{ ...draft, id: null, edition: 0 }] : [];
  });
  const dropped = new Set(before.filter(({ id }) => !drafts.some((draft) => draft.id === id)).map(({ id }) => id));
  const added = now.filter(({ id }) => !old.has(id) && !dropped.has(id));
  return [...kept, ...added.map(draftOfRole)];
}

export const draftOfRole = ({ id, edition, name, grid }: SavedRole): RoleDraft => ({
  key: id,
  id,
  edition,
  name,
  grid,
});
