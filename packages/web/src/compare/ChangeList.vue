<script setup lang="ts">
/** All changes of a sheet in a list: by kind, one after the other; the chosen one with all that can be said of it. */
import { countChanges, type ChangeKind } from '@kindred/core/compare/change-counts';
import { sayChange } from '@kindred/words/sheet-changes';
import { computed } from 'vue';
import type { ChangeColours } from './change-colours.ts';
import ChangeKinds from './ChangeKinds.vue';
import { CHANGE_LOOK } from './change-look.ts';
import type { NumberedChange } from '@kindred/core/compare/numbered';

const props = defineProps<{
  changes: readonly NumberedChange[];
  chosen: number | undefined;
  /** Where each is, as the border of the sheet names it. */
  zoneOf: (change: NumberedChange) => string;
  colours: ChangeColours;
  /** What is known of each against the brief; none: there is no brief. */
  said: ReadonlyMap<number, { asked: boolean; ticked: boolean }>;
}>();
const kinds = defineModel<ChangeKind[]>('kinds', { required: true });
const emit = defineEmits<{ choose: [number: number] }>();
defineSlots<{ chosen(props: { change: NumberedChange }): unknown }>();

const shown = computed(() => props.changes.filter(({ kind }) => kinds.value.includes(kind)));
</script>

<template>
  <ChangeKinds v-model="kinds" :counts="countChanges(changes)" :colours="colours" />
  <ol>
    <li v-for="change in shown" :key="change.number" :class="{ chosen: change.number === chosen }">
      <button
        class="change"
        :aria-current="change.number === chosen ? 'true' : undefined"
        @click="emit('choose', change.number)"
      >
        <span class="kind-sign" :style="{ color: colours[change.kind] }"
          >{{ CHANGE_LOOK[change.kind].sign }} {{ change.number }}</span
        >
        <span>{{ sayChange(change) }}</span>
        <span class="quiet where">{{ zoneOf(change) }}</span>
        <small v-if="said.get(change.number)" class="asked" :class="{ not: !said.get(change.number)!.asked }"
          >{{ said.get(change.number)!.asked ? 'asked for' : 'not asked for'
          }}{{ said.get(change.number)!.ticked ? '' : '?' }}</small
        >
      </button>
      <div v-if="change.number === chosen" class="more"><slot name="chosen" :change="change" /></div>
    </li>
  </ol>
</template>

<style scoped>
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
.more {
  display: grid;
  gap: 8px;
  padding: 0 12px 10px;
}
.where {
  margin-left: 8px;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.asked {
  grid-column: 2 / 4;
  color: var(--graphite);
}
.asked.not {
  color: var(--needs-you);
  font-weight: 600;
}
.change {
  display: grid;
  grid-template-columns: 40px 1fr auto;
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
