<script setup lang="ts">
/** Chooses how two sheets are shown. */
import { COMPARE_MODES, type CompareMode } from './compare-modes.ts';

defineProps<{ mode: CompareMode }>();
const emit = defineEmits<{ mode: [CompareMode] }>();
</script>

<template>
  <div role="group" aria-label="How the two are shown" class="row">
    <button
      v-for="(word, name) in COMPARE_MODES"
      :key="name"
      class="mode"
      :aria-pressed="mode === name"
      @click="emit('mode', name)"
    >
      {{ word }}
    </button>
  </div>
</template>

<style scoped>
.mode {
  min-height: 30px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.mode[aria-pressed='true'] {
  background: var(--ink);
  color: #fff;
}
</style>
