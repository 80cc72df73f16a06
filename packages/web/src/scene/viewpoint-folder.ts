/** Viewpoints as they are listed, and the folders that they lie in. */
import {
  arrangeViewpoints,
  listViewpointFolders,
  listViewpoints,
  removeViewpoint,
  renameViewpoint,
} from '@kindred/contract/scene/scene';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** `folder`: undefined for all viewpoints, newest first. */
export function useViewpoints(folder: () => string | undefined, whole = false) {
  const project = useProject();
  const cache = useQueryCache();
  const key = (): string[] => [project.projectId, 'viewpoint'];
  const pages = usePages(
    () => [...key(), 'in', folder() ?? 'all'],
    (after) => {
      const within = folder();
      const query = { ...(after && { after }), ...(within !== undefined && { folder: within }) };
      return call(listViewpoints, { params: project.params, query });
    },
    { all: whole },
  );
  const { data } = useQuery({
    key: () => [...key(), 'folders'],
    query: () => call(listViewpointFolders, { params: project.params }),
  });
  const changed = async (act: () => Promise<unknown>): Promise<boolean> => {
    const done = await attempt(act);
    await cache.invalidateQueries({ key: key() });
    return done;
  };
  return {
    ...pages,
    folders: computed(() => data.value ?? []),
    /** Puts some into a folder, before another one or at its end. */
    arrange: (viewpointIds: string[], into: string, before: string | null = null) =>
      changed(() => call(arrangeViewpoints, { params: project.params, body: { viewpointIds, folder: into, before } })),
    rename: (viewpointId: string, name: string) =>
      changed(() => call(renameViewpoint, { params: { ...project.params, viewpointId }, body: { name } })),
    remove: (viewpointId: string) =>
      changed(() => call(removeViewpoint, { params: { ...project.params, viewpointId } })),
  };
}
