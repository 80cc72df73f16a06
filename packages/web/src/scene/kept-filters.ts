/** Filters under names: one's own, which are a preference, and those that the project shares. */
import { listElementFilters, removeElementFilter, shareElementFilter } from '@kindred/contract/scene/element-filters';
import type { ElementFilter } from '@kindred/core/scene/element-filter';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { usePreference } from '../identity/preferences.ts';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

export interface KeptFilter {
  name: string;
  filter: ElementFilter;
  /** Of one that the project shares. */
  id?: string;
  owner?: string;
  mayRemove: boolean;
}

export function useKeptFilters() {
  const project = useProject();
  const own = usePreference<readonly Pick<KeptFilter, 'name' | 'filter'>[]>(
    () => `filters-of-scene/${project.projectId}`,
    [],
  );
  const { data: shared, refetch } = useQuery({
    key: () => [project.projectId, 'element filter'],
    query: () => call(listElementFilters, { params: project.params }),
  });
  const changed = async (act: () => Promise<unknown>): Promise<void> => {
    await attempt(act);
    await refetch();
  };
  return {
    kept: computed((): KeptFilter[] => [
      ...own.value.map((one) => ({ ...one, mayRemove: true })),
      ...(shared.value ?? []).map(({ mine, ...one }) => ({
        ...one,
        mayRemove: mine || project.view?.me.administrator === true,
      })),
    ]),
    mayShare: computed(() => project.may('scene', 'add')),
    keep(name: string, filter: ElementFilter): void {
      own.value = [...own.value.filter((one) => one.name !== name), { name, filter }];
    },
    share: (name: string, { match, conditions }: ElementFilter) =>
      changed(() =>
        call(shareElementFilter, {
          params: project.params,
          body: { name, filter: { match, conditions: [...conditions] } },
        }),
      ),
    async remove({ id, name }: KeptFilter): Promise<void> {
      if (id) await changed(() => call(removeElementFilter, { params: { ...project.params, filterId: id } }));
      else own.value = own.value.filter((one) => one.name !== name);
    },
  };
}
