<script setup lang="ts">
/** Words one looks for: in this sheet, one after the other, and on which other sheets of the set they stand. */
import type { Recognition } from '@kindred/core/drawing/recognition';
import type { FoundText } from '@kindred/core/drawing/find-text';
import { ChevronDown, ChevronUp, Search, X } from '@lucide/vue';
import { counted } from '@kindred/words/sentence';

defineProps<{
  found: readonly FoundText[];
  /** The one that is shown, from 0. */
  at: number;
  others: readonly { page: number; label: string; around: string }[];
  /** The words of this sheet are there to be searched. */
  ready: boolean;
  recognition: Recognition;
}>();
const words = defineModel<string>({ required: true });
const emit = defineEmits<{ step: [by: 1 | -1]; show: [i: number]; page: [page: number]; close: [] }>();
</script>

<template>
  <section class="over-surface words" aria-label="Find words">
    <div class="row">
      <el-input
        v-model="words"
        size="small"
        placeholder="Find words on the sheet"
        aria-label="Find words on the sheet"
        autofocus
        @keydown.enter="emit('step', $event.shiftKey ? -1 : 1)"
        @keydown.esc.stop="emit('close')"
        ><template #prefix><Search :size="14" /></template
      ></el-input>
      <button class="button-link" title="Before (Shift Enter)" :disabled="!found.length" @click="emit('step', -1)">
        <ChevronUp :size="16" />
      </button>
      <button class="button-link" title="Next (Enter)" :disabled="!found.length" @click="emit('step', 1)">
        <ChevronDown :size="16" />
      </button>
      <button class="button-link" title="Close (Esc)" @click="emit('close')"><X :size="16" /></button>
    </div>
    <template v-if="words.trim()">
      <p class="quiet count" role="status">
        <template v-if="!ready">The words of this sheet are not known: it was prepared before they were kept.</template>
        <template v-else-if="recognition === 'waiting'"
          >This sheet is a picture: its words are being recognised.</template
        >
        <template v-else-if="recognition === 'failed'"
          >This sheet is a picture, and its words could not be recognised.</template
        >
        <template v-else-if="found.length"
          >{{ at + 1 }} of {{ counted(found.length, 'place') }} on this sheet{{
            recognition === 'recognised' ? ', recognised from its picture' : ''
          }}</template
        >
        <template v-else>Nowhere on this sheet</template>
      </p>
      <ol>
        <li v-for="(hit, i) in found.slice(0, 100)" :key="i">
          <button class="hit" :class="{ here: i === at }" @click="emit('show', i)">{{ hit.text }}</button>
        </li>
      </ol>
      <template v-if="others.length">
        <p class="quiet count">On other sheets of this drawing</p>
        <ol>
          <li v-for="sheet in others" :key="sheet.page">
            <button class="hit" @click="emit('page', sheet.page)">
              <b>{{ sheet.label }}</b> <span class="quiet">{{ sheet.around }}</span>
            </button>
          </li>
        </ol>
      </template>
    </template>
  </section>
</template>

<style scoped>
.words {
  top: 8px;
  right: 8px;
  width: min(300px, calc(100% - 16px));
  max-height: 60%;
  overflow: auto;
  padding: 8px;
}
.count {
  margin: 6px 2px 2px;
  font-size: 12px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
.hit {
  width: 100%;
  padding: 4px 6px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.hit:hover,
.hit.here {
  background: var(--wash);
}
</style>
