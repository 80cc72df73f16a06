import { planParts } from '@kindred/core/scene/part-plan';
import { onScopeDispose, ref, shallowRef, type Ref } from 'vue';
import { Closed, loadModel, prepareToLoad, type LoadedModel, type ModelSource } from './models.ts';
import type { SceneEngine } from './engine/scene-engine.ts';

/** Of each gigabyte that a machine says it has, so many bytes may be models; a browser that does not say has four. */
const [SHARE, UNSAID] = [128e6, 4];
const memoryLimit = (): number => SHARE * ((navigator as { deviceMemory?: number }).deviceMemory ?? UNSAID);

/**
 * The models that the scene holds: opened one after the other, the first drawn as soon as it is there. Of large ones the further parts
 * follow, the largest on the screen first; what the memory has no room for stays away until one comes near.
 */
export function useOpenModels(
  engine: Ref<SceneEngine | undefined>,
  projectId: () => string,
  titleOf: (versionId: string) => string,
  onlyLargest: () => boolean = () => false,
) {
  const models = shallowRef<LoadedModel[]>([]);
  const loading = ref('');
  const problem = ref('');
  const sources = new Map<string, ModelSource>();
  /** One load after the other: two answers for the same model would draw it twice. */
  let loads = Promise.resolve();
  const filling = ref(false);
  let again = false;
  /** Parts that are drawn and that rays do not find quickly yet. */
  const treeless: { version: string; part: number }[] = [];

  function close(id: string): void {
    sources.get(id)?.close();
    sources.delete(id);
  }
  prepareToLoad();
  onScopeDispose(() => [...sources.keys()].forEach(close));

  async function open(id: string, look: boolean): Promise<void> {
    const source = loadModel(projectId(), id);
    sources.set(id, source);
    const { pack, draws } = await source.part(0);
    const scene = engine.value;
    if (!scene) return;
    // The picture does not wait for the table.
    const reading = source.table();
    scene.addModel(id, pack, draws);
    if (look) {
      scene.home(false);
      scene.draw();
    }
    const table = await reading;
    treeless.push({ version: id, part: 0 });
    models.value = [...models.value, { versionId: id, slot: scene.models.slotOf(id), table }];
  }

  async function loadNow(ids: string[]): Promise<void> {
    const first = models.value.length === 0;
    for (const { versionId } of models.value.filter((model) => !ids.includes(model.versionId))) {
      engine.value?.removeModel(versionId);
      close(versionId);
    }
    models.value = models.value.filter(({ versionId }) => ids.includes(versionId));
    for (const id of ids) {
      if (models.value.some(({ versionId }) => versionId === id)) continue;
      loading.value = `Opening ${titleOf(id)} …`;
      try {
        await open(id, first && id === ids[0]);
        void fill();
      } catch (error) {
        engine.value?.removeModel(id);
        close(id);
        problem.value = (error as Error).message;
      }
    }
    loading.value = '';
  }

  /** The part that is worth most of those that are not here, after what is not worth its memory was given back. */
  function nextPart(scene: SceneEngine): { version: string; part: number } | undefined {
    const { parts, eye } = scene.furtherParts();
    const held = parts.reduce((sum, { isHere, bytes }) => sum + (isHere ? bytes : 0), 0);
    const room = onlyLargest() ? 0 : memoryLimit() - (scene.bytes - held);
    const wanted = planParts(parts, eye, room).map((i) => parts[i]!);
    for (const part of parts) if (part.isHere && !wanted.includes(part)) scene.removePart(part.version, part.part);
    return wanted.find(({ isHere }) => !isHere);
  }
  async function fillNow(scene: SceneEngine): Promise<void> {
    for (let next; (next = nextPart(scene));) {
      const { version, part } = next;
      const { pack, draws } = await sources.get(version)!.part(part);
      scene.addPart(version, part, pack, draws);
      treeless.push({ version, part });
      if (!nextPart(scene)) scene.draw();
    }
    for (let next; (next = treeless.shift());) {
      const { version, part } = next;
      const trees = await sources.get(version)?.trees(part);
      if (trees) scene.takeTrees(version, part, trees);
    }
  }
  /** Looks what is missing from here, once at a time; asked again meanwhile, it looks again afterwards. */
  async function fill(): Promise<void> {
    again = true;
    if (filling.value) return;
    filling.value = true;
    while (again && engine.value) {
      again = false;
      try {
        await fillNow(engine.value);
      } catch (error) {
        // What was closed is looked for no more; the others are.
        if (error instanceof Closed) again = true;
        else problem.value = (error as Error).message;
      }
    }
    filling.value = false;
  }
  return {
    models,
    loading,
    problem,
    /** Further parts are being fetched. */
    filling,
    fill,
    load(ids: readonly string[]): Promise<void> {
      loads = loads.then(() => loadNow([...new Set(ids)]));
      return loads;
    },
  };
}
