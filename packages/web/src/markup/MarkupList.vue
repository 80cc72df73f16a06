<script setup lang="ts">
import type { Markup } from '@kindred/contract/markup/markup';
import { MARKUP_STATUSES, type MarkupStatus } from '@kindred/core/markup/shapes';
import { KIND_WORDS } from '@kindred/words/markups';
import { counted } from '@kindred/words/sentence';
import { computed, ref } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

/** The markups of a version, with their status; a click goes to the place. */
const props = defineProps<{
  markups: readonly Markup[] | undefined;
  /** Those that are chosen. */
  here: readonly string[];
  mayChange: boolean;
  /** What a markup measures, in words; empty where it measures nothing. */
  measureOf: (markup: Markup) => string;
  /** The name of the sheet that it is on; empty where there is but one. */
  sheetOf: (page: number) => string;
}>();
const emit = defineEmits<{
  show: [Markup];
  publish: [Markup[]];
  remove: [Markup];
  edit: [Markup];
  'set-status': [markup: Markup, status: MarkupStatus];
}>();
const drafts = computed(() => (props.markups ?? []).filter(({ draft }) => draft));
const status = ref<MarkupStatus | ''>('');
const author = ref('');
const authors = computed(() => [...new Set((props.markups ?? []).map((markup) => markup.author.name))].sort());
const shown = computed(() =>
  (props.markups ?? []).filter(
    (markup) =>
      (!status.value || markup.status === status.value) && (!author.value || markup.author.name === author.value),
  ),
);
</script>

<template>
  <div class="row">
    <h2>Markups</h2>
    <span class="spread" />
    <el-button v-if="drafts.length" type="primary" size="small" @click="emit('publish', drafts)"
      >Publish {{ counted(drafts.length, 'draft') }}</el-button
    >
  </div>
  <p v-if="markups && !markups.length" class="quiet">None on this version. Choose a tool below the sheet and draw.</p>
  <div v-if="(markups?.length ?? 0) > 3" class="row filters">
    <el-select v-model="status" size="small" clearable placeholder="Status" aria-label="Status to show"
      ><el-option v-for="item in MARKUP_STATUSES" :key="item" :value="item" :label="item"
    /></el-select>
    <el-select
      v-if="authors.length > 1"
      v-model="author"
      size="small"
      clearable
      placeholder="Author"
      aria-label="Author to show"
      ><el-option v-for="name in authors" :key="name" :value="name" :label="name"
    /></el-select>
  </div>
  <article v-for="markup in shown" :key="markup.id" :class="{ here: here.includes(markup.id) }">
    <div class="row">
      <b class="mono">{{ markup.number }}</b><span :class="MARKUP_LOOK[markup.status].sign">{{ markup.status }}</span
      ><span v-if="markup.draft" class="draft">draft</span><span class="spread" /><small
        class="quiet"
        :title="markup.author.name"
        >{{ markup.author.initials }}</small
      >
    </div>
    <button class="words" :title="`Show markup ${markup.number}`" @click="emit('show', markup)">
      <b v-if="measureOf(markup)" class="mono">{{ measureOf(markup) }}</b>
      {{ markup.text || (measureOf(markup) ? '' : KIND_WORDS[markup.shape.kind]) }}
      <small v-if="sheetOf(markup.page)" class="quiet sheet">{{ sheetOf(markup.page) }}</small>
    </button>
    <div class="row">
      <template v-if="markup.draft"
        ><button class="button-link" @click="emit('publish', [markup])">Publish</button
        ><button class="button-link" @click="emit('edit', markup)">Words</button
        ><button class="button-link" @click="emit('remove', markup)">Delete</button></template
      >
      <el-select
        v-else-if="mayChange"
        :model-value="markup.status"
        size="small"
        style="width: 110px"
        :aria-label="`Status of markup ${markup.number}`"
        @update:model-value="emit('set-status', markup, $event)"
        ><el-option v-for="item in MARKUP_STATUSES" :key="item" :value="item" :label="item"
      /></el-select>
    </div>
  </article>
</template>

<style scoped>
article {
  padding: 8px;
  margin: 0 -8px;
  border-bottom: 1px solid var(--hairline);
}
article:hover,
article.here {
  background: var(--sheet);
}
.words {
  width: 100%;
  padding: 4px 0;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}
.filters {
  margin: 6px 0;
}
.sheet {
  display: block;
}
.draft {
  border: 1px dashed var(--graphite);
  padding: 0 4px;
  font-size: 11px;
  border-radius: 3px;
}
</style>
