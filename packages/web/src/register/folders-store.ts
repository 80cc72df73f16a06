import type { Convention as ConventionRow } from '@kindred/contract/naming/naming';
import { listFolders, type Folder } from '@kindred/contract/register/folders';
import type { Convention } from '@kindred/core/naming/convention';
import { useQuery } from '@pinia/colada';
import { defineStore } from 'pinia';
import { computed } from 'vue';
import { useNaming } from '../naming/store.ts';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

/** The folders of the project that the person may see, in the order of their tree. */
export const useFolders = defineStore('folders', () => {
  const project = useProject();
  const naming = useNaming();
  const { data, refetch } = useQuery({
    key: () => [project.projectId, 'folder'],
    query: () => call(listFolders, { params: project.params }),
    enabled: () => project.may('register', 'see'),
  });
  const list = computed(() => data.value ?? []);
  const byId = computed(() => new Map(list.value.map((folder) => [folder.id, folder])));
  /** The folder itself and those above it, nearest first. */
  function* upwards(folderId: string | null): Generator<Folder> {
    for (let id = folderId; id;) {
      const folder = byId.value.get(id);
      if (!folder) return;
      yield folder;
      id = folder.parentId;
    }
  }
  /** The nearest folder that names a convention; undefined where the project's own holds. */
  function conventionSource(folderId: string | null): Folder | undefined {
    for (const folder of upwards(folderId)) if (folder.conventionId) return folder;
    return undefined;
  }
  /** The convention that names in a folder follow. */
  function conventionHolding(folderId: string | null): ConventionRow | undefined {
    const named = conventionSource(folderId)?.conventionId;
    return naming.byId.get(named ?? '') ?? naming.naming?.conventions[0];
  }
  const conventionIn = (folderId: string | null): Convention | undefined => conventionHolding(folderId)?.definition;
  return {
    list,
    loaded: computed(() => data.value !== undefined),
    byId,
    refetch,
    conventionSource,
    conventionHolding,
    conventionIn,
  };
});
