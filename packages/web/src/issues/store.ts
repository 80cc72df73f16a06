import { showIssueSettings } from '@kindred/contract/issues/settings';
import { rankOf, STARTER_ISSUE_SETTINGS } from '@kindred/core/issues/settings';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

/** Types, priorities and labels of the project's issues. */
export const useIssueSettings = defineStore('issue settings', () => {
  const project = useProject();
  const { data, refetch } = useQuery({
    key: () => [project.projectId, 'project', 'issue settings'],
    query: () => call(showIssueSettings, { params: project.params }),
    enabled: () => project.projectId !== '' && project.may('issues', 'see'),
  });
  const settings = computed(() => data.value?.settings ?? STARTER_ISSUE_SETTINGS);
  return {
    data,
    refetch,
    settings,
    /** Filled bars out of all: rank is read by length. One that the project does not have has no bars. */
    bars(priority: string): string {
      const rank = rankOf(settings.value, priority);
      return rank ? '▮'.repeat(rank) + '▯'.repeat(settings.value.priorities.length - rank) : '·';
    },
    blocks: (priority: string): boolean =>
      settings.value.priorities.some(({ name, blocks }) => blocks && name === priority),
  };
});
