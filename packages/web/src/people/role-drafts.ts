import type { Role } from '@kindred/contract/people/people';
import type { Action, Grid, Kind } from '@kindred/core/people/rights';
import { draftOfRole, rebaseRoles, type RoleDraft } from '@kindred/core/people/role-drafts';
import { affectedBy, sameGrid, withRight } from '@kindred/core/people/roles';
import { computed, ref, shallowRef, watch } from 'vue';
import { usePeople } from './store.ts';

/** Roles under the pen: nothing is saved until the person has seen who is affected. */
export function useRoleDrafts() {
  const people = usePeople();
  const saved = computed(() => people.data?.roles ?? []);
  /** Replaced, never changed in place: comparing forty grids through proxies would take longer than a frame. */
  const drafts = shallowRef<RoleDraft[]>([]);
  const chosen = ref(new Set<string>());
  let lastKey = 0;

  const savedById = computed(() => new Map(saved.value.map((role) => [role.id, role])));
  const savedOf = (draft: RoleDraft): Role | undefined => savedById.value.get(draft.id ?? '');
  const isChanged = (draft: RoleDraft): boolean => {
    const role = savedOf(draft);
    return !role || role.name !== draft.name || !sameGrid(role.grid, draft.grid);
  };
  const changed = computed(() => drafts.value.filter(isChanged));
  const removed = computed(() => saved.value.filter(({ id }) => !drafts.value.some((draft) => draft.id === id)));
  const dirty = computed(() => changed.value.length + removed.value.length > 0);
  const affected = computed(() =>
    dirty.value
      ? affectedBy(
          people.members,
          saved.value,
          drafts.value.map(({ key, name, grid }) => ({ id: key, name, grid })),
        )
      : [],
  );

  function discard(): void {
    drafts.value = saved.value.map(draftOfRole);
    chosen.value = new Set();
  }
  // What others save comes in at once; what is being written here stays, and shows how it differs from theirs.
  watch(
    saved,
    (now, before) => {
      drafts.value = rebaseRoles(drafts.value, before ?? [], now);
    },
    { immediate: true },
  );

  /** Sets a right in one role, or in all chosen ones when that role is among them. */
  function setRight(draft: RoleDraft, kind: Kind, action: Action): void {
    const given = !draft.grid[kind]?.includes(action);
    const also = chosen.value.has(draft.key) ? chosen.value : new Set([draft.key]);
    drafts.value = drafts.value.map((one) =>
      also.has(one.key) ? { ...one, grid: withRight(one.grid, kind, action, given) } : one,
    );
  }
  function replace(draft: RoleDraft, wanted: Partial<Pick<RoleDraft, 'name' | 'grid'>>): void {
    drafts.value = drafts.value.map((one) => (one.key === draft.key ? { ...one, ...wanted } : one));
  }
  function choose(draft: RoleDraft): void {
    if (!chosen.value.delete(draft.key)) chosen.value.add(draft.key);
  }
  function add(name: string, grid: Grid): void {
    drafts.value = [...drafts.value, { key: `new-${++lastKey}`, id: null, edition: 0, name: freeName(name), grid }];
  }
  function freeName(name: string): string {
    const taken = new Set(drafts.value.map((draft) => draft.name.toLowerCase()));
    for (let n = 1; ; n++) {
      const candidate = n === 1 ? name : `${name} ${n}`;
      if (!taken.has(candidate.toLowerCase())) return candidate;
    }
  }
  function remove(draft: RoleDraft): void {
    drafts.value = drafts.value.filter(({ key }) => key !== draft.key);
    chosen.value.delete(draft.key);
  }
  /** Roles of a file take the place of those with the same name; others are added. */
  function bring(roles: readonly { name: string; grid: Grid }[]): void {
    for (const { name, grid } of roles) {
      const known = drafts.value.find((draft) => draft.name.toLowerCase() === name.toLowerCase());
      if (known) replace(known, { grid });
      else add(name, grid);
    }
  }
  const changes = computed(() => ({
    change: changed.value.flatMap(({ id, edition, name, grid }) => (id ? [{ id, edition, name, grid }] : [])),
    add: changed.value.filter(({ id }) => !id).map(({ name, grid }) => ({ name, grid })),
    remove: removed.value.map(({ id, edition }) => ({ id, edition })),
  }));
  return {
    drafts,
    chosen,
    dirty,
    affected,
    changes,
    savedOf,
    isChanged,
    discard,
    setRight,
    replace,
    choose,
    add,
    remove,
    bring,
  };
}
