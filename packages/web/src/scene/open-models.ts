import { ref, shallowRef, type Ref } from 'vue';
import { loadModel, type LoadedModel } from './models.ts';
import type { SceneEngine } from './scene-engine.ts';

/** The models that the scene holds: opened one after the other, the first drawn as soon as it is there. */
export function useOpenModels(
  engine: Ref<SceneEngine | undefined>,
  projectId: () => string,
  titleOf: (versionId: string) => string,
) {
  const models = shallowRef<LoadedModel[]>([]);
  const loading = ref('');
  const problem = ref('');
  /** One load after the other: two answers for the same model would draw it twice. */
  let loads = Promise.resolve();

  async function loadNow(ids: string[]): Promise<void> {
    const first = models.value.length === 0;
    for (const model of models.value) if (!ids.includes(model.versionId)) engine.value?.removeModel(model.versionId);
    models.value = models.value.filter(({ versionId }) => ids.includes(versionId));
    for (const id of ids) {
      if (models.value.some(({ versionId }) => versionId === id)) continue;
      loading.value = `Opening ${titleOf(id)} …`;
      try {
        const { pack, table } = loadModel(projectId(), id);
        // Both are waited for: a failure of either is told once.
        const [shapes] = await Promise.all([pack, table]);
        engine.value?.addModel(id, shapes);
        if (first && id === ids[0]) {
          engine.value?.home(false);
          engine.value?.draw();
        }
        models.value = [...models.value, { versionId: id, table: await table }];
      } catch (error) {
        problem.value = (error as Error).message;
      }
    }
    loading.value = '';
  }
  return {
    models,
    loading,
    problem,
    load(ids: readonly string[]): Promise<void> {
      loads = loads.then(() => loadNow([...new Set(ids)]));
      return loads;
    },
  };
}
