<script setup lang="ts">
import type { Markup } from '@kindred/contract/markup/markup';
import { totalsOf, type Total } from '@kindred/core/markup/totals';
import { MARKUP_STATUSES, type MarkupStatus } from '@kindred/core/markup/shapes';
import { FATE_WORDS, KIND_WORDS } from '@kindred/words/markups';
import { counted } from '@kindred/words/sentence';
import { MessageCircle } from '@lucide/vue';
import { computed } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

/** The markups of a version, with their status; a click goes to the place. */
const props = defineProps<{
  markups: readonly Markup[] | undefined;
  /** Those that are chosen. */
  here: readonly string[];
  mayChange: boolean;
  /** What a markup measures, in words; empty where it measures nothing. */
  measureOf: (markup: Markup) => string;
  /** A sum of measures, in words. */
  sayTotal: (total: Total) => string;
  /** The name of the sheet that it is on; empty where there is but one. */
  sheetOf: (page: number) => string;
}>();
const emit = defineEmits<{
  show: [Markup];
  publish: [Markup[]];
  remove: [Markup];
  'set-status': [markup: Markup, status: MarkupStatus];
}>();
const drafts = computed(() => (props.markups ?? []).filter(({ draft }) => draft));
const status = defineModel<MarkupStatus | ''>('status', { default: '' });
/** The id of whoever wrote them. */
const author = defineModel<string>('author', { default: '' });
const authors = computed(() => new Map((props.markups ?? []).map(({ author: one }) => [one.id, one.name] as const)));
const shown = computed(() =>
  (props.markups ?? []).filter(
    (markup) =>
      (!status.value || markup.status === status.value) && (!author.value || markup.author.id === author.value),
  ),
);
const totals = computed(() => totalsOf(shown.value));
const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map(([first = '']) => first)
    .join('')
    .slice(0, 2)
    .toUpperCase();
</script>

<template>
  <div class="row">
    <h2>Markups</h2>
    <span class="spread" />
    <el-button v-if="drafts.length" type="primary" size="small" @click="emit('publish', drafts)"
      >Publish {{ counted(drafts.length, 'draft') }}</el-button
    >
  </div>
  <slot name="acts" />
  <p v-if="markups && !markups.length" class="quiet">None on this version. Choose a tool below the sheet and draw.</p>
  <div v-if="(markups?.length ?? 0) > 3" class="row filters">
    <el-select v-model="status" size="small" clearable placeholder="Status" aria-label="Status to show"
      ><el-option v-for="item in MARKUP_STATUSES" :key="item" :value="item" :label="item"
    /></el-select>
    <el-select
      v-if="authors.size > 1"
      v-model="author"
      size="small"
      clearable
      placeholder="Author"
      aria-label="Author to show"
      ><el-option v-for="[id, name] in authors" :key="id" :value="id" :label="name"
    /></el-select>
  </div>
  <article v-for="markup in shown" :key="markup.id" :class="{ here: here.includes(markup.id) }">
    <div class="row">
      <b class="mono">{{ markup.number }}</b><small
        v-if="markup.tag"
        class="quiet"
        :title="`Callout ${markup.tag} of its sheet or set`"
        >({{ markup.tag }})</small
      ><span :class="MARKUP_LOOK[markup.status].sign">{{ markup.status }}</span
      ><span v-if="markup.draft" class="draft">draft</span
      ><span v-if="markup.carriedFrom" class="carried" :title="`Carried from version ${markup.carriedFrom}`"
        >carried</span
      ><span v-if="markup.fate === 'gone' || markup.fate === 'changed'" class="fate" :title="FATE_WORDS[markup.fate]">{{
        markup.fate
      }}</span
      ><span class="spread" /><small v-if="markup.comments" class="quiet" :title="counted(markup.comments, 'comment')"
        ><MessageCircle :size="12" /> {{ markup.comments }}</small
      ><small class="quiet" :title="markup.writtenBy ?? markup.author.name">{{
        markup.writtenBy ? initials(markup.writtenBy) : markup.author.initials
      }}</small>
    </div>
    <button class="words" :title="`Show markup ${markup.number}`" @click="emit('show', markup)">
      <b v-if="measureOf(markup)" class="mono">{{ measureOf(markup) }}</b>
      {{ markup.text || (measureOf(markup) ? '' : KIND_WORDS[markup.shape.kind]) }}
      <small v-if="sheetOf(markup.page)" class="quiet sheet">{{ sheetOf(markup.page) }}</small>
    </button>
    <div class="row">
      <template v-if="markup.draft"
        ><button class="button-link" @click="emit('publish', [markup])">Publish</button
        ><button class="button-link" @click="emit('remove', markup)">Delete</button></template
      >
      <el-select
        v-else-if="mayChange && !markup.carriedTo && here.includes(markup.id)"
        :model-value="markup.status"
        size="small"
        style="width: 110px"
        :aria-label="`Status of markup ${markup.number}`"
        @update:model-value="emit('set-status', markup, $event)"
        ><el-option v-for="item in MARKUP_STATUSES" :key="item" :value="item" :label="item"
      /></el-select>
    </div>
    <slot v-if="here.length === 1 && here[0] === markup.id" name="detail" :markup="markup" />
  </article>
  <footer v-if="totals.length" class="totals">
    <b>Measured together</b>
    <p v-for="total in totals" :key="`${total.kind}/${total.label}`">
      <span>{{ KIND_WORDS[total.kind] }} {{ total.label }} ({{ total.markups }})</span>
      <b class="mono">{{ sayTotal(total) }}</b>
    </p>
  </footer>
</template>

<style scoped>
.fate {
  padding: 0 5px;
  border: 1px solid var(--needs-you);
  border-radius: 2px;
  font-size: 12px;
  color: var(--needs-you);
}
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
.totals {
  padding: 10px 0;
  font-size: 12px;
}
.totals p {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  margin: 2px 0;
}
.carried {
  padding: 0 4px;
  border-bottom: 2px dotted var(--info);
  font-size: 11px;
}
.draft {
  border: 1px dashed var(--graphite);
  padding: 0 4px;
  font-size: 11px;
  border-radius: 3px;
}
</style>
