<script setup lang="ts">
/** All changes of a sheet in a list: by kind, one after the other. */
import type { ChangeKind } from '@kindred/core/compare/compare-sheets';
import { sayChange } from '@kindred/words/sheet-changes';
import { computed } from 'vue';
import { CHANGE_LOOK } from './change-look.ts';
import type { NumberedChange } from './sheet-comparison.ts';

const props = defineProps<{ changes: readonly NumberedChange[]; chosen: number | undefined; mayRaise: boolean }>();
const kinds = defineModel<ChangeKind[]>('kinds', { required: true });
const emit = defineEmits<{ choose: [number: number]; raise: [number: number] }>();

const counts = computed(() =>
  (Object.keys(CHANGE_LOOK) as ChangeKind[]).map((kind) => ({
    kind,
    ...CHANGE_LOOK[kind],
    count: props.changes.filter((change) => change.kind === kind).length,
  })),
);
const shown = computed(() => props.changes.filter(({ kind }) => kinds.value.includes(kind)));
const toggle = (kind: ChangeKind): void => {
  kinds.value = kinds.value.includes(kind) ? kinds.value.filter((one) => one !== kind) : [...kinds.value, kind];
};
</script>

<template>
  <div class="kinds" role="group" aria-label="Kinds of changes">
    <button
      v-for="one in counts"
      :key="one.kind"
      :aria-pressed="kinds.includes(one.kind)"
      :disabled="!one.count"
      @click="toggle(one.kind)"
    >
      <span class="kind-sign" :style="{ color: one.colour }">{{ one.sign }}</span> {{ one.count }} {{ one.word }}
    </button>
  </div>
  <ol>
    <li v-for="change in shown" :key="change.number" :class="{ chosen: change.number === chosen }">
      <button
        class="change"
        :aria-current="change.number === chosen ? 'true' : undefined"
        @click="emit('choose', change.number)"
      >
        <span class="kind-sign" :style="{ color: CHANGE_LOOK[change.kind].colour }"
          >{{ CHANGE_LOOK[change.kind].sign }} {{ change.number }}</span
        >
        <span>{{ sayChange(change) }}</span>
      </button>
      <button v-if="mayRaise && change.number === chosen" class="button-link" @click="emit('raise', change.number)">
        Raise an issue from it
      </button>
    </li>
  </ol>
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
  white-space: nowrap;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  border-bottom: 1px solid var(--hairline);
}
li.chosen {
  background: var(--sheet);
}
li > .button-link {
  margin: 0 12px 8px 52px;
}
.change {
  display: grid;
  grid-template-columns: 40px 1fr;
  width: 100%;
  padding: 8px 12px;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}
</style>
