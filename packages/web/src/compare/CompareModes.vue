<script setup lang="ts" generic="Mode extends string">
/** Chooses how two versions are shown. */
import { computed } from 'vue';

const props = defineProps<{ mode: Mode; modes: Readonly<Record<Mode, string>> }>();
const entries = computed(() => Object.entries(props.modes) as [Mode, string][]);
const emit = defineEmits<{ mode: [Mode] }>();
</script>

<template>
  <div role="group" aria-label="How the two are shown" class="row">
    <button
      v-for="[name, word] in entries"
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
