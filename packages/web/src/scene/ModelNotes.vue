<script setup lang="ts">
/** What was noticed while a model was prepared, and which of its elements could not be drawn. */
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { modelNote, undrawnReason } from '@kindred/words/files';
import { counted } from '@kindred/words/sentence';
import { TriangleAlert } from '@lucide/vue';

defineProps<{ table: Pick<ElementTable, 'notes' | 'undrawn'> }>();
</script>

<template>
  <details v-if="table.notes.length" class="notes">
    <summary><TriangleAlert :size="13" :stroke-width="1.5" /> {{ counted(table.notes.length, 'remark') }}</summary>
    <p v-for="note in table.notes" :key="note.code">{{ modelNote(note) }}</p>
    <ul v-if="table.undrawn?.count" aria-label="Could not be drawn">
      <li v-for="(one, i) in table.undrawn.elements" :key="i">
        {{ one.name || one.class }} <span class="mono quiet">{{ one.globalId }}</span><br /><small class="quiet">{{
          undrawnReason(one)
        }}</small>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.notes {
  padding: 0 12px 6px 20px;
  font-size: 12px;
}
summary {
  display: flex;
  align-items: center;
  gap: 5px;
  min-height: 24px;
  color: var(--caution);
  cursor: pointer;
}
p {
  margin: 4px 0;
}
ul {
  max-height: 200px;
  overflow: auto;
  margin: 4px 0;
  padding: 0;
  list-style: none;
}
li {
  padding: 3px 0;
  border-top: 1px solid var(--hairline);
}
</style>
