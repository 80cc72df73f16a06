import { showNaming, type Convention as ConventionRow } from '@kindred/contract/naming/naming';
import type { Convention } from '@kindred/core/naming/convention';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from '../register/folders-store.ts';

/** The conventions and the codes of the project, and what its codes mean. */
export const useNaming = defineStore('naming', () => {
  const project = useProject();
  const folders = useFolders();
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
  /** The convention that names in a folder follow. */
  function conventionHolding(folderId: string | null): ConventionRow | undefined {
    const named = folders.conventionSource(folderId)?.conventionId;
    return byId.value.get(named ?? '') ?? data.value?.conventions[0];
  }
  const conventionIn = (folderId: string | null): Convention | undefined => conventionHolding(folderId)?.definition;
  return {
    naming: data,
    byId,
    refetch,
    conventionIn,
    conventionHolding,
    meaning: (code: string): string => meanings.value.get(code) ?? '',
  };
});
