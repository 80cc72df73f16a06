/** How the list of issues is looked at: all of it stands in the address. */
import {
  ISSUE_GROUPS,
  ISSUE_SORTS,
  IssueFilters,
  type IssueFilters as Filters,
  type IssueGroupBy,
  type IssueSort,
} from '@kindred/contract/issues/issues';
import type { SavedViewDefinition } from '@kindred/contract/register/views';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useRouteQuery } from '../platform/route-query.ts';

export const ISSUE_LOOKS = {
  table: 'Table',
  board: 'Board',
  calendar: 'Calendar',
  map: 'Map',
  charts: 'Charts',
} as const;
export type IssueLook = keyof typeof ISSUE_LOOKS;

const known = <T extends string>(values: readonly T[], value: string): T | undefined =>
  values.find((one) => one === value);
const NAMES = Object.keys(IssueFilters) as (keyof Filters)[];

/** The group of a list as a filter: empty values stand for none. */
export function filterOfGroup(by: IssueGroupBy, value: string): Filters {
  const none = by === 'label' ? '-' : 'nobody';
  return { [by]: value || none };
}

export function useIssueView() {
  const route = useRoute();
  const router = useRouter();
  const { query, set } = useRouteQuery();
  const filters = computed((): Filters =>
    Object.fromEntries(
      NAMES.filter((name) => query(name)).map((name) => [name, name === 'overdue' ? true : query(name)]),
    ),
  );
  const order = computed((): { sort?: IssueSort; descending?: boolean } => {
    const sort = known(ISSUE_SORTS, query('sort'));
    return sort ? { sort, descending: query('down') === '1' } : {};
  });
  function sortBy(sort: IssueSort): void {
    const again = order.value.sort === sort;
    if (again && order.value.descending) void set({ sort: undefined, down: undefined });
    else void set({ sort, down: again ? '1' : undefined });
  }
  /** Puts a value into a filter of several, or takes it out. */
  function toggle(name: keyof Filters, value: string): void {
    const now = query(name).split(',').filter(Boolean);
    const next = now.includes(value) ? now.filter((one) => one !== value) : [...now, value];
    void set({ [name]: next.join(',') || undefined });
  }
  const definition = computed((): SavedViewDefinition => {
    const { view: _view, group: _group, ...rest } = route.query;
    void [_view, _group];
    return { filters: rest as Record<string, string>, columns: [], groupBy: query('group') };
  });
  function show(id: string, { filters: wanted, groupBy }: SavedViewDefinition): void {
    void router.replace({ query: { ...wanted, ...(groupBy && { group: groupBy }), view: id } });
  }
  return {
    query,
    set,
    filters,
    order,
    sortBy,
    toggle,
    definition,
    show,
    groupBy: computed(() => known(ISSUE_GROUPS, query('group'))),
    look: computed((): IssueLook => (query('as') in ISSUE_LOOKS ? (query('as') as IssueLook) : 'table')),
    clear: () => set({ ...Object.fromEntries(NAMES.map((name) => [name, undefined])), view: undefined }),
  };
}
export type IssueViewState = ReturnType<typeof useIssueView>;
