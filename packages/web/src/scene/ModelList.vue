<script setup lang="ts">
/** Models to choose from; those that are open are ticked. */
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import ModelNotes from './ModelNotes.vue';

defineProps<{
  models: readonly { versionId: string; title: string; code: string; revision: string }[];
  open: readonly string[];
  /** Of those that are drawn. */
  tables: ReadonlyMap<string, ElementTable>;
}>();
const emit = defineEmits<{ toggle: [versionId: string] }>();
</script>

<template>
  <section>
    <h2>Models</h2>
    <template v-for="model in models" :key="model.versionId">
      <label class="model">
        <input type="checkbox" :checked="open.includes(model.versionId)" @change="emit('toggle', model.versionId)" />
        <span>{{ model.title || model.code }}</span> <span class="mono quiet">{{ model.revision }}</span>
      </label>
      <ModelNotes v-if="tables.has(model.versionId)" :table="tables.get(model.versionId)!" />
    </template>
  </section>
</template>

<style scoped>
.model {
  display: flex;
  gap: 6px;
  padding: 3px 12px 3px 0;
  align-items: center;
}
.model span:nth-child(2) {
  flex: 1;
}
@media (max-width: 700px) {
  .model {
    min-height: 36px;
  }
}
</style>
