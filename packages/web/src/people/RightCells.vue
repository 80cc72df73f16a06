<script setup lang="ts">
import { ACTIONS, type Action } from '@kindred/core/people/rights';

/** The actions of one role for one kind of thing, as words with commas: a cell is drawn anew only when its own change. */
const { granted, saved, title, readonly } = defineProps<{
  granted: string;
  saved: string;
  title: string;
  readonly: boolean;
}>();
const emit = defineEmits<{ turn: [Action] }>();
const has = (list: string, action: Action): boolean => list.split(',').includes(action);
</script>

<template>
  <span class="cells" role="group" :aria-label="title">
    <button
      v-for="action in ACTIONS"
      :key="action"
      :aria-pressed="has(granted, action)"
      :class="{ other: has(granted, action) !== has(saved, action) }"
      :disabled="readonly"
      @click="emit('turn', action)"
    >
      {{ action }}
    </button>
  </span>
</template>

<style scoped>
.cells {
  display: grid;
  grid-template-columns: repeat(3, auto);
  gap: 2px;
  width: max-content;
}
button {
  font: 11px/17px var(--mono);
  padding: 0 5px;
  color: #6f7a7f;
  border: 1px solid var(--hairline);
  border-radius: 2px;
  background: none;
  cursor: pointer;
}
button[aria-pressed='true'] {
  color: #fff;
  background: var(--info);
  border-color: var(--info);
}
button.other {
  outline: 2px solid var(--caution);
}
button:disabled {
  cursor: default;
}
</style>
