/** The layers of paint of a scene, followed by Vue. */
import { ref, shallowRef, watch, type Ref } from 'vue';
import type { PaintLayers } from './engine/paint-layers.ts';
import type { SceneEngine } from './engine/scene-engine.ts';

export function useLayers(engine: Ref<SceneEngine | undefined>) {
  const layers = shallowRef<PaintLayers>();
  /** Grows with each change: who reads it with the layers is told of it. */
  const edition = ref(0);
  watch(
    engine,
    (scene) => {
      layers.value = scene?.paint;
      if (!scene) return;
      scene.paint.onChanged = () => {
        scene.touch();
        edition.value++;
      };
    },
    { immediate: true, flush: 'sync' },
  );
  return { layers, edition };
}
