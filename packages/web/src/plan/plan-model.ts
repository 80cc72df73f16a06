/** The model behind a plan: loaded when somebody asks what stands there. */
import { elementsOn, storeysOf, type PlacedElement } from '@kindred/core/plan/storey-plan';
import type { ScenePackage } from '@kindred/core/scene/package';
import { joinScenes } from '@kindred/core/scene/parts';
import { computed, ref, shallowRef, watch } from 'vue';
import { sayProblem } from '../platform/say.ts';
import { loadModel, type LoadedModel } from '../scene/models.ts';

export interface PlanModel extends Omit<LoadedModel, 'slot'> {
  scene: ScenePackage;
}
export type Storey = ReturnType<typeof storeysOf>[number];

/** `wanted`: the version of the model; undefined while nobody needs it. */
export function usePlanModel(projectId: () => string, wanted: () => string | undefined) {
  const model = shallowRef<PlanModel>();
  const loading = ref(false);
  watch(
    wanted,
    async (versionId) => {
      if (versionId === model.value?.versionId) return;
      model.value = undefined;
      if (!versionId) return;
      loading.value = true;
      try {
        const source = loadModel(projectId(), versionId);
        try {
          const [first, table] = await Promise.all([source.part(0), source.table()]);
          const further = first.pack.parts?.places.map((_, i) => source.part(i + 1)) ?? [];
          const scene = joinScenes([first, ...(await Promise.all(further))].map(({ pack }) => pack));
          if (wanted() === versionId) model.value = { versionId, scene, table };
        } finally {
          source.close();
        }
      } catch (error) {
        sayProblem(error);
      } finally {
        loading.value = false;
      }
    },
    { immediate: true },
  );
  return { model, loading, storeys: computed(() => (model.value ? storeysOf(model.value.table) : [])) };
}

export const elementsOfStorey = ({ scene, table }: PlanModel, storey: Storey | undefined): PlacedElement[] =>
  storey ? elementsOn(scene, table, storey.node) : [];
