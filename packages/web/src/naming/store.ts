import { showNaming } from '@kindred/contract/naming/naming';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

/** The conventions and the codes of the project, and what its codes mean. */
export const useNaming = defineStore('naming', () => {
  const project = useProject();
  const { data, refetch } = useQuery({
    key: () => [project.projectId, 'convention'],
    query: () => call(showNaming, { params: project.params }),
    enabled: () => project.projectId !== '',
  });
  const meanings = computed(
    () =>
      new Map(
        [...(data.value?.statuses ?? []), ...(data.value?.classifications ?? [])].map(({ code, meaning }) => [
          code,
          meaning,
        ]),
      ),
  );
  const byId = computed(() => new Map(data.value?.conventions.map((convention) => [convention.id, convention])));
  return {
    naming: data,
    byId,
    refetch,
    meaning: (code: string): string => meanings.value.get(code) ?? '',
  };
});
