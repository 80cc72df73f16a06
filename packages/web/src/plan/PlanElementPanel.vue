<script setup lang="ts">
/** What stands at a place of a plan, as the model knows it, with the way there. */
import { CUT_HEIGHT } from '@kindred/core/plan/storey-plan';
import { X } from '@lucide/vue';
import { RouterLink } from 'vue-router';
import { useProject } from '../portfolio/store.ts';
import PropertyPanel from '../scene/PropertyPanel.vue';
import type { PlanModel } from './plan-model.ts';

defineProps<{
  model: PlanModel | undefined;
  row: number | undefined;
  loading: boolean;
  /** Of the floor, metres. */
  elevation: number;
}>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
</script>

<template>
  <section class="over-surface element" aria-label="In the model" @keydown.esc.stop="emit('close')">
    <div class="row">
      <RouterLink
        v-if="model && row !== undefined"
        :to="{
          name: 'scene',
          params: project.params,
          query: {
            models: model.versionId,
            element: model.table.globalId[row],
            cut: (elevation + CUT_HEIGHT).toFixed(2),
          },
        }"
        >Look at it in the scene</RouterLink
      >
      <span class="spread" />
      <button class="button-link" title="Close (Esc)" @click="emit('close')"><X :size="16" /></button>
    </div>
    <p v-if="loading" class="quiet">Opening the model …</p>
    <PropertyPanel
      v-else-if="model && row !== undefined"
      :project-id="project.projectId"
      :row="row"
      :model="model"
      :others="0"
    />
    <p v-else class="quiet">The model has nothing at this place.</p>
  </section>
</template>

<style scoped>
.element {
  top: 8px;
  left: 8px;
  width: min(280px, calc(100% - 16px));
  max-height: calc(100% - 16px);
  overflow: auto;
  padding: 8px 10px;
}
</style>
