<script setup lang="ts">
/** One side: its models, the versions that they are chosen from, and what was measured on either side. */
import type { SceneMeasure } from '@kindred/contract/scene/scene';
import { ref, shallowRef, watch } from 'vue';
import SceneStage, { type Place } from './SceneStage.vue';
import type { SceneEngine } from './engine/scene-engine.ts';
import { usePointing } from './pointing.ts';
import SceneOverlay from './SceneOverlay.vue';
import { CHOOSE, type SceneTool } from './tools.ts';
import { useOpenModels } from './open-models.ts';
import type { LoadedModel } from './models.ts';

const props = withDefaults(
  defineProps<{
    projectId: string;
    name: string;
    versionIds: readonly string[];
    /** What a click does; it chooses where nothing is said. */
    tool?: SceneTool;
    measures?: readonly SceneMeasure[];
    say?: (measure: SceneMeasure) => string;
  }>(),
  { tool: () => CHOOSE, measures: () => [], say: () => '' },
);
const emit = defineEmits<{
  ready: [engine: SceneEngine];
  /** All its models are there. */
  loaded: [models: readonly LoadedModel[]];
  click: [place: Place];
  measured: [measure: SceneMeasure];
}>();
const engine = shallowRef<SceneEngine>();
const failed = ref('');
const { models, loading, problem, fill, load } = useOpenModels(
  engine,
  () => props.projectId,
  () => 'model',
);
watch(
  () => [engine.value, props.versionIds.join()] as const,
  async ([scene]) => {
    if (!scene || !props.versionIds.length) return;
    await load(props.versionIds);
    emit('loaded', models.value);
  },
  { immediate: true },
);
const pictures = ref(0);
const pointing = usePointing(engine, () => Promise.resolve(undefined));
watch(
  () => props.tool,
  (tool) => (pointing.tool.value = tool),
);
// What is measured on one side stands on both.
watch(pointing.measures, (own) => {
  if (own.length) emit('measured', own.at(-1)!);
  if (own.length) pointing.clear();
});
const click = (place: Place): void => (props.tool.act === 'choose' ? emit('click', place) : void pointing.click(place));
function begin(scene: SceneEngine): void {
  engine.value = scene;
  scene.onDrawn = () => void pictures.value++;
  scene.onFinished = () => void fill();
  emit('ready', scene);
}
</script>

<template>
  <section class="side" :aria-label="name">
    <header><slot /></header>
    <SceneStage
      :framing="false"
      :hovering="tool.act !== 'choose'"
      :data-models="models.length"
      @ready="begin"
      @failed="failed = 'This browser cannot draw in three dimensions (WebGL is off).'"
      @click="click"
      @hover="pointing.hover"
    >
      <SceneOverlay
        v-if="engine"
        :to-screen="(at) => engine!.toScreen(at)"
        :drawn="pictures"
        :measures="measures"
        :marks="[]"
        :say="say"
        :pending="pointing.pending.value"
        :aim="pointing.aim.value"
      />
      <p v-if="pointing.hint.value" class="hint">{{ pointing.hint.value }}</p>
      <p v-if="failed || problem || loading" class="said" role="status">{{ failed || problem || loading }}</p>
    </SceneStage>
  </section>
</template>

<style scoped>
.side {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  padding: 6px 12px;
  min-height: 40px;
  border-bottom: 1px solid var(--hairline);
}
header:empty {
  display: none;
}
.hint {
  position: absolute;
  right: 12px;
  top: 8px;
  margin: 0;
  padding: 4px 10px;
  background: var(--paper);
  pointer-events: none;
}
.said {
  position: absolute;
  left: 12px;
  bottom: 8px;
  margin: 0;
  padding: 4px 10px;
  background: var(--paper);
}
</style>
