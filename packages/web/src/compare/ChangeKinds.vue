<script setup lang="ts">
/** Which kinds of changes one sees, and how many of each there are. */
import { CHANGE_KINDS, type ChangeCounts, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { ChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';

defineProps<{
  counts: ChangeCounts;
  colours: ChangeColours;
  /** What kinds are called, where not as on drawings. */
  words?: Record<ChangeKind, string>;
}>();
const kinds = defineModel<ChangeKind[]>({ required: true });
const toggle = (kind: ChangeKind): void => {
  kinds.value = kinds.value.includes(kind) ? kinds.value.filter((one) => one !== kind) : [...kinds.value, kind];
};
</script>

<template>
  <div class="kinds" role="group" aria-label="Kinds of changes">
    <button
      v-for="kind in CHANGE_KINDS"
      :key="kind"
      :aria-pressed="kinds.includes(kind)"
      :disabled="!counts[kind]"
      @click="toggle(kind)"
    >
      <span class="kind-sign" :style="{ color: colours[kind] }">{{ CHANGE_LOOK[kind].sign }}</span> {{ counts[kind] }}
      {{ words?.[kind] ?? CHANGE_LOOK[kind].word }}
    </button>
  </div>
</template>

<style scoped>
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 8px 12px;
}
.kinds button {
  min-height: 26px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  color: var(--graphite);
  font: inherit;
  cursor: pointer;
}
.kinds button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--sheet);
  color: var(--ink);
}
.kinds button:disabled {
  opacity: 0.55;
  cursor: default;
}
.kind-sign {
  font-weight: 700;
}
</style>
