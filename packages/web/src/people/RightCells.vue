<script setup lang="ts">
import { RIGHTS, type Action, type Kind } from '@kindred/core/people/rights';
import { opens } from '@kindred/words/rights';

/** The actions of one role for one kind of thing, as words with commas: a cell is drawn anew only when its own change. */
const { kind, granted, saved, title, readonly } = defineProps<{
  kind: Kind;
  granted: string;
  saved: string;
  title: string;
  readonly: boolean;
}>();
const emit = defineEmits<{ toggle: [Action] }>();
const has = (list: string, action: Action): boolean => list.split(',').includes(action);
</script>

<template>
  <span class="cells" role="group" :aria-label="title">
    <button
      v-for="action in RIGHTS[kind]"
      :key="action"
      :aria-pressed="has(granted, action)"
      :class="{ other: has(granted, action) !== has(saved, action) }"
      :title="opens(kind, action)"
      :disabled="readonly"
      @click="emit('toggle', action)"
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
  font: 11px/22px var(--mono);
  min-height: 24px;
  padding: 0 6px;
  color: var(--graphite);
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
