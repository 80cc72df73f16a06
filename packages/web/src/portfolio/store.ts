import { showProject } from '@kindred/contract/portfolio/portfolio';
import type { Action, Kind } from '@kindred/core/people/rights';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed, watchEffect } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/api.ts';
import { settings } from '../platform/settings.ts';

/** The project of the address, and what the person may do in it. */
export const useProject = defineStore('project', () => {
  const route = useRoute();
  const projectId = computed(() => (typeof route.params.projectId === 'string' ? route.params.projectId : ''));
  const { data, error, refresh } = useQuery({
    key: () => [projectId.value, 'project'],
    query: () => call(showProject, { params: { projectId: projectId.value } }),
    enabled: () => projectId.value !== '',
  });
  const view = computed(() => (projectId.value ? (data.value ?? null) : null));
  watchEffect(() => {
    const { timeZone = '', units = 'metric', inchFraction = 16, calloutTag = 'flag' } = view.value?.project ?? {};
    Object.assign(settings, { projectId: projectId.value, timeZone, units, inchFraction, calloutTag });
  });
  return {
    projectId,
    params: computed(() => ({ projectId: projectId.value })),
    view,
    error,
    refresh,
    may: (kind: Kind, action: Action): boolean => view.value?.me.grid[kind]?.includes(action) ?? false,
  };
});
