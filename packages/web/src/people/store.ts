import { listPeople } from '@kindred/contract/people/people';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

/** The people of the project with their companies, teams and roles. */
export const usePeople = defineStore('people', () => {
  const project = useProject();
  const { data, refetch } = useQuery({
    key: () => [project.projectId, 'person'],
    query: () => call(listPeople, { params: project.params }),
    enabled: () => project.projectId !== '' && project.may('people', 'see'),
  });
  return {
    data,
    refetch,
    /** Those who have not left. */
    members: computed(() => data.value?.members.filter(({ leftAt }) => !leftAt) ?? []),
  };
});
