<script setup lang="ts">
import type { Markup } from '@kindred/contract/markup/markup';
import { MARKUP_STATUSES, type MarkupStatus } from '@kindred/core/markup/shapes';
import { counted } from '@kindred/words/sentence';
import { computed } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

/** The markups of a version, with their status; a click goes to the place. */
const props = defineProps<{ markups: readonly Markup[] | undefined; here: string; mayChange: boolean }>();
const emit = defineEmits<{
  show: [Markup];
  publish: [Markup[]];
  remove: [Markup];
  'set-status': [markup: Markup, status: MarkupStatus];
}>();
const drafts = computed(() => (props.markups ?? []).filter(({ draft }) => draft));
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
  <article v-for="markup in markups" :key="markup.id" :class="{ here: markup.id === here }">
    <div class="row">
      <b class="mono">{{ markup.number }}</b><span :class="MARKUP_LOOK[markup.status].sign">{{ markup.status }}</span
      ><span v-if="markup.draft" class="draft">draft</span><span class="spread" /><small
        class="quiet"
        :title="markup.author.name"
        >{{ markup.author.initials }}</small
      >
    </div>
    <button class="words" :title="`Show markup ${markup.number}`" @click="emit('show', markup)">
      {{ markup.text || `Markup ${markup.number}` }}
    </button>
    <div class="row">
      <template v-if="markup.draft"
        ><button class="button-link" @click="emit('publish', [markup])">Publish</button
        ><button class="button-link" @click="emit('remove', markup)">Delete</button></template
      >
      <el-select
        v-else-if="mayChange"
        :model-value="markup.status"
        size="small"
        style="width: 110px"
        :aria-label="`Status of markup ${markup.number}`"
        @update:model-value="emit('set-status', markup, $event)"
        ><el-option v-for="status in MARKUP_STATUSES" :key="status" :value="status" :label="status"
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
.draft {
  border: 1px dashed var(--graphite);
  padding: 0 4px;
  font-size: 11px;
  border-radius: 3px;
}
</style>
