<script setup lang="ts">
import { MOST_RELATED } from '@kindred/contract/platform/limits';
import { listRelated, type Thing } from '@kindred/contract/things/things';
import { AudioWaveform, Eye, FileBox, Flag, Layers2, MessageSquareText, Send, Stamp, X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, type Component } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { settings } from '../platform/settings.ts';
import { useRelated } from './related.ts';

const related = useRelated();
const time = useTime();
const { data, error } = useQuery({
  key: () => [settings.projectId, 'related', related.selected?.type ?? '', related.selected?.id ?? ''],
  query: () =>
    call(listRelated, {
      params: { projectId: settings.projectId },
      query: { type: related.selected!.type, id: related.selected!.id },
    }),
  enabled: () => related.selected !== null,
});
const shown = computed(() => (related.selected ? data.value : undefined));
const ICONS: Record<string, Component> = {
  version: Layers2,
  container: FileBox,
  issue: Flag,
  review: Stamp,
  transmittal: Send,
  markup: MessageSquareText,
  viewpoint: Eye,
};
const icon = (hit: Thing): Component => ICONS[hit.type] ?? AudioWaveform;
</script>

<template>
  <aside class="related" aria-label="Related">
    <template v-if="related.selected">
      <div class="head">
        <h2>
          Related to <span :class="{ mono: related.selected.type === 'container' }">{{ shown?.title ?? '…' }}</span>
        </h2>
        <button class="close" aria-label="Close" title="Close (K)" @click="related.toggle()"><X :size="16" /></button>
      </div>
      <p v-if="error" class="quiet">What is related cannot be shown right now.</p>
      <p v-else-if="shown && !shown.items.length" class="quiet">Nothing touches this yet.</p>
      <ol v-else>
        <li v-for="item in shown?.items" :key="item.type + item.id">
          <RouterLink :to="item.link">
            <component :is="icon(item)" :size="15" :stroke-width="1.5" />
            <span class="title" :class="{ mono: item.type === 'container' }">{{ item.title }}</span>
            <time class="mono quiet">{{ time.short(item.at) }}</time>
            <small class="quiet">{{ item.note }}</small>
          </RouterLink>
        </li>
      </ol>
      <p v-if="(shown?.items.length ?? 0) >= MOST_RELATED" class="quiet">
        These are the newest {{ MOST_RELATED }}. Older ones are found by the jump box.
      </p>
    </template>
  </aside>
</template>

<style scoped>
.related {
  grid-area: related;
  width: 320px;
  border-left: 1px solid var(--hairline);
  padding: 16px 16px;
  overflow: auto;
}
.head {
  display: flex;
  gap: 8px;
  align-items: start;
  justify-content: space-between;
  margin-bottom: 10px;
}
h2 {
  overflow-wrap: anywhere;
}
.close {
  display: none;
  min-width: 32px;
  min-height: 32px;
  place-items: center;
  border: 0;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
@media (max-width: 1099px) {
  .related {
    position: fixed;
    inset: 78px 0 0 auto;
    z-index: 30;
    width: min(320px, 100vw);
    background: var(--paper);
    box-shadow: -6px 0 24px rgb(29 42 47 / 18%);
  }
  .close {
    display: grid;
  }
}
@media (max-width: 700px) {
  .related {
    inset: 44px 0 56px;
    width: 100vw;
  }
}
ol {
  list-style: none;
  margin: 0;
  padding: 0 0 0 7px;
  border-left: 1px solid var(--hairline);
}
a {
  display: grid;
  grid-template: auto auto / 22px 1fr auto;
  align-items: center;
  column-gap: 6px;
  padding: 7px 4px;
  margin-left: -15px;
  color: var(--ink);
}
a:hover {
  background: var(--wash);
  text-decoration: none;
}
a svg {
  background: var(--paper);
  color: var(--action);
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
small {
  grid-column: 2 / 4;
}
time {
  font-size: 11px;
}
</style>
