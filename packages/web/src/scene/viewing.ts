/** What one looks at: as the address asks for it, as a viewpoint keeps it. */
import { showViewpoint, type SceneMark, type SceneMeasure, type ViewpointToAdd } from '@kindred/contract/scene/scene';
import type { PropertyKey } from '@kindred/core/scene/element-index';
import { useDebounceFn } from '@vueuse/core';
import { ElMessageBox } from 'element-plus';
import { watch, type Ref } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { ApiProblem, call } from '../platform/api.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { answered, attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useRelated } from '../things/related.ts';
import { elementNumber } from './engine/element-numbers.ts';
import type { SceneEngine } from './engine/scene-engine.ts';
import type { LoadedModel } from './models.ts';
import { useSaveViewpoint, viewpointToAdd } from './save-viewpoint.ts';
import { applyState, cameraText, setCamera } from './viewpoint-state.ts';

interface Viewed {
  engine: Ref<SceneEngine | undefined>;
  models: Ref<readonly LoadedModel[]>;
  /** Versions that the address names. */
  wanted: Ref<readonly string[]>;
  load: (versionIds: readonly string[]) => Promise<void>;
  problem: Ref<string>;
  measures: Ref<SceneMeasure[]>;
  marks: Ref<SceneMark[]>;
  colouredBy: Ref<PropertyKey | null>;
  /** All of it was brought to a viewpoint, or to an element. */
  seen: () => void;
}

export function useViewing({ engine, models, wanted, load, problem, measures, marks, colouredBy, seen }: Viewed) {
  const project = useProject();
  const related = useRelated();
  const { query, set } = useRouteQuery();

  async function viewpointOf(viewpointId: string) {
    try {
      return await call(showViewpoint, { params: { ...project.params, viewpointId } });
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      problem.value =
        error.problem.status === 404
          ? 'This viewpoint does not exist, or shows models that are not shared with you.'
          : error.problem.detail;
      return null;
    }
  }

  /** Models, then the view, as the address asks for them. */
  let asked = 0;
  let shownViewpoint = '';
  async function follow(): Promise<void> {
    const mine = ++asked;
    const viewpointId = query('viewpoint');
    const viewpoint = viewpointId ? await viewpointOf(viewpointId) : null;
    const empty = models.value.length === 0;
    await load(wanted.value.length ? wanted.value : (viewpoint?.versionIds ?? []));
    if (mine !== asked || !engine.value) return;
    if (viewpoint && shownViewpoint !== viewpointId) {
      shownViewpoint = viewpointId;
      const { state } = viewpoint;
      applyState(engine.value, models.value, state, !empty);
      measures.value = state.measures ?? [];
      marks.value = state.marks ?? [];
      colouredBy.value = state.colouredBy ?? null;
      related.select({ type: 'viewpoint', id: viewpointId });
      seen();
    } else if (empty && models.value.length && !setCamera(engine.value, query('camera'))) engine.value.home(false);
    showWanted(engine.value);
  }
  watch([wanted, () => query('viewpoint')], () => engine.value && void follow());

  /** The element of the address is chosen and looked at, once. */
  let shownElement = '';
  function showWanted(scene: SceneEngine): void {
    const id = query('element');
    if (!id || id === shownElement) return;
    const elements = models.value.flatMap(({ slot, table }) => {
      const row = table.globalId.indexOf(id);
      return row < 0 ? [] : [elementNumber(slot, row)];
    });
    if (!elements.length) return;
    shownElement = id;
    const cutAt = Number(query('cut'));
    // What stands over it would hide it.
    if (query('cut') && Number.isFinite(cutAt))
      scene.setCuts({ sections: [{ at: [0, 0, cutAt], direction: [0, 0, 1] }], box: null });
    scene.paint.select(elements);
    scene.showElements(elements);
    seen();
  }

  /** Written after one went elsewhere it would call them back. */
  let leaves = false;
  onBeforeRouteLeave(() => void (leaves = true));
  const writeView = useDebounceFn(() => {
    if (leaves || !models.value.length || !engine.value) return;
    const camera = cameraText(engine.value);
    // What was ticked stands in the address already, though it may still be opening.
    const ids = query('models') || models.value.map(({ versionId }) => versionId).join(',');
    if (camera !== query('camera')) void set({ models: ids, camera });
  }, 400);

  const save = useSaveViewpoint();
  const takeViewpoint = (name: string): ViewpointToAdd =>
    viewpointToAdd(name, engine.value!, models.value, {
      measures: measures.value,
      marks: marks.value,
      colouredBy: colouredBy.value,
    });
  async function askAndSave(): Promise<void> {
    const answer = await answered(
      ElMessageBox.prompt('Name of the viewpoint', 'Save viewpoint', {
        confirmButtonText: 'Save viewpoint',
        cancelButtonText: 'Cancel',
        inputPattern: /\S/,
        inputErrorMessage: 'It needs a name.',
      }),
    );
    if (!answer) return;
    if (await attempt(() => save(takeViewpoint(answer.value)))) sayDone('Viewpoint saved. It stands under Viewpoints.');
  }

  return { follow, writeView, takeViewpoint, askAndSave };
}
