import { CONTAINER_SORTS, type RegisterQuery } from '@kindred/contract/register/register';
import type { SavedViewDefinition } from '@kindred/contract/register/views';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { usePreference } from '../identity/preferences.ts';
import { useProject } from '../portfolio/store.ts';
import { STARTER_COLUMNS } from './columns.ts';
import { useRouteQuery } from '../platform/route-query.ts';

/** Filters that take several values, by their name in the address, which is also that of the server. */
export const LIST_FILTERS = [
  'kind',
  'state',
  'status',
  'revision',
  'classification',
  'preparation',
  'teamId',
  'deliveredBy',
] as const;
const TEXTS = [...LIST_FILTERS, 'deliveredFrom', 'deliveredBefore', 'fields'] as const;
const FLAGS = ['conflicting', 'reserved'] as const;

/** How the register is looked at: it all stands in the address, the columns apart, which each person has of their own. */
export function useRegisterView() {
  const route = useRoute();
  const router = useRouter();
  const project = useProject();
  const { query } = useRouteQuery();
  const set = (changes: Record<string, string | undefined>) =>
    router.replace({ query: { ...route.query, ...changes } });

  const filters = computed((): RegisterQuery => {
    const texts = Object.fromEntries(TEXTS.filter((name) => query(name)).map((name) => [name, query(name)]));
    const flags = Object.fromEntries(FLAGS.filter((name) => query(name) === '1').map((name) => [name, true]));
    return {
      ...texts,
      ...flags,
      ...(query('q') && { q: query('q') }),
      ...(query('folder') && { folderId: query('folder') }),
      ...(query('folder') && query('deep') === '1' && { deep: true }),
    };
  });
  const order = computed(() => ({
    sort: ((CONTAINER_SORTS as readonly string[]).includes(query('sort'))
      ? query('sort')
      : 'code') as (typeof CONTAINER_SORTS)[number],
    descending: query('down') === '1',
  }));
  function sortBy(sort: string | undefined): void {
    if (!sort) return;
    const again = order.value.sort === sort;
    void set({ sort, down: again && !order.value.descending ? '1' : undefined });
  }

  const parts = computed((): Record<string, string> => {
    try {
      return JSON.parse(query('fields') || '{}') as Record<string, string>;
    } catch {
      return {};
    }
  });
  function setPart(field: string, value: string | undefined): void {
    const { [field]: _old, ...rest } = parts.value;
    void _old;
    const next = value ? { ...rest, [field]: value } : rest;
    void set({ fields: Object.keys(next).length ? JSON.stringify(next) : undefined });
  }

  const columns = usePreference(() => `columns/${project.projectId}`, STARTER_COLUMNS);

  const definition = computed((): SavedViewDefinition => {
    const { view: _view, group: _group, ...rest } = route.query;
    void [_view, _group];
    return { filters: rest as Record<string, string>, columns: columns.value, groupBy: query('group') };
  });
  function show(id: string, { filters: wanted, columns: keys, groupBy }: SavedViewDefinition): void {
    columns.value = keys;
    void router.replace({ query: { ...wanted, ...(groupBy && { group: groupBy }), view: id } });
  }
  return { query, set, filters, order, sortBy, parts, setPart, columns, definition, show };
}
export type RegisterViewState = ReturnType<typeof useRegisterView>;
