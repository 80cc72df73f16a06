<script setup lang="ts">
/** One side: its models, and the versions that they are chosen from. */
import { ref, shallowRef, watch } from 'vue';
import SceneStage, { type Place } from './SceneStage.vue';
import type { SceneEngine } from './engine/scene-engine.ts';
import { useOpenModels } from './open-models.ts';
import type { LoadedModel } from './models.ts';

const props = defineProps<{ projectId: string; name: string; versionIds: readonly string[] }>();
const emit = defineEmits<{
  ready: [engine: SceneEngine];
  /** All its models are there. */
  loaded: [models: readonly LoadedModel[]];
  click: [place: Place];
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
function begin(scene: SceneEngine): void {
  engine.value = scene;
  scene.onFinished = () => void fill();
  emit('ready', scene);
}
</script>

<template>
  <section class="side" :aria-label="name">
    <header><slot /></header>
    <SceneStage
      :framing="false"
      :hovering="false"
      :data-models="models.length"
      @ready="begin"
      @failed="failed = 'This browser cannot draw in three dimensions (WebGL is off).'"
      @click="(place) => emit('click', place)"
    >
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
.said {
  position: absolute;
  left: 12px;
  bottom: 8px;
  margin: 0;
  padding: 4px 10px;
  background: var(--paper);
}
</style>
