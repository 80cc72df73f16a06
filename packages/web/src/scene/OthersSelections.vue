<script setup lang="ts">
/** Who has selected what at this moment; a click goes there. */
import { counted } from '@kindred/words/sentence';
import PersonBadge from '../platform/PersonBadge.vue';
import type { OthersSelection } from './others-selections.ts';

defineProps<{ others: readonly OthersSelection[] }>();
const emit = defineEmits<{ show: [elements: readonly number[]] }>();
</script>

<template>
  <ul v-if="others.length" class="others" aria-label="Selected by others">
    <li v-for="{ person, elements } in others" :key="person.id">
      <button :title="`Look at what ${person.name} has selected`" @click="emit('show', elements)">
        <PersonBadge :person="person" /> {{ counted(elements.length, 'element') }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
.others {
  position: absolute;
  right: 14px;
  top: 50px;
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
button {
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  min-height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  font: inherit;
  font-size: 12px;
  cursor: pointer;
}
</style>
