import { ref, shallowRef, type Ref } from 'vue';
import { loadModel, type LoadedModel } from './models.ts';
import type { SceneEngine } from './engine/scene-engine.ts';

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

  async function open(id: string, look: boolean): Promise<void> {
    const { shapes, table, trees } = loadModel(projectId(), id);
    // Both are waited for: a failure of either is told once.
    const [{ pack, draws }] = await Promise.all([shapes, table]);
    const scene = engine.value;
    if (!scene) return;
    scene.addModel(id, pack, draws);
    if (look) {
      scene.home(false);
      scene.draw();
    }
    models.value = [...models.value, { versionId: id, slot: scene.models.slotOf(id), table: await table }];
    void trees().then((made) => engine.value?.takeTrees(id, made));
  }

  async function loadNow(ids: string[]): Promise<void> {
    const first = models.value.length === 0;
    for (const model of models.value) if (!ids.includes(model.versionId)) engine.value?.removeModel(model.versionId);
    models.value = models.value.filter(({ versionId }) => ids.includes(versionId));
    for (const id of ids) {
      if (models.value.some(({ versionId }) => versionId === id)) continue;
      loading.value = `Opening ${titleOf(id)} …`;
      try {
        await open(id, first && id === ids[0]);
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
