/** Keeps what one sees as a viewpoint. */
import { addViewpoint, type ViewpointToAdd } from '@kindred/contract/scene/scene';
import { useQueryCache } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import type { LoadedModel } from './models.ts';
import { takeState, type Annotations } from './viewpoint-state.ts';

const BARE: Annotations = { measures: [], marks: [], colouredBy: null };

/** What one sees, with its picture, not kept yet. */
export const viewpointToAdd = (
  name: string,
  engine: SceneEngine,
  models: readonly LoadedModel[],
  annotations: Annotations = BARE,
): ViewpointToAdd => ({
  name: name.slice(0, 120),
  state: takeState(engine, models, annotations),
  versionIds: models.map(({ versionId }) => versionId),
  picture: engine.picture(),
});

/** Answers the id of the new viewpoint. */
export function useSaveViewpoint() {
  const project = useProject();
  const cache = useQueryCache();
  return async (viewpoint: ViewpointToAdd): Promise<string> => {
    const saved = await call(addViewpoint, { params: project.params, body: viewpoint });
    await cache.invalidateQueries({ key: [project.projectId, 'viewpoint'] });
    return saved.id;
  };
}
