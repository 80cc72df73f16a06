<script setup lang="ts">
import { kin as kinOf, type Hit } from '@kindred/contract/portfolio/portfolio';
import { AudioWaveform, Eye, FileBox, Flag, Layers2, MessageSquareText, Send, Stamp } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, type Component } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { useKin } from './kin.ts';

const project = useProject();
const kin = useKin();
const time = useTime();
const { data, error } = useQuery({
  key: () => [project.projectId, 'kin', kin.selected?.type ?? '', kin.selected?.id ?? ''],
  query: () => call(kinOf, { params: project.params, query: { type: kin.selected!.type, id: kin.selected!.id } }),
  enabled: () => kin.selected !== null,
});
const shown = computed(() => (kin.selected ? data.value : undefined));
const ICONS: Record<string, Component> = {
  version: Layers2,
  container: FileBox,
  issue: Flag,
  review: Stamp,
  transmittal: Send,
  markup: MessageSquareText,
  viewpoint: Eye,
};
const icon = (hit: Hit): Component => ICONS[hit.type] ?? AudioWaveform;
</script>

<template>
  <aside class="kin" aria-label="Kin">
    <template v-if="kin.selected">
      <h2>
        Kin of <span class="mono">{{ shown?.title ?? '…' }}</span>
      </h2>
      <p v-if="error" class="quiet">What is related cannot be shown right now.</p>
      <p v-else-if="shown && !shown.items.length" class="quiet">Nothing touches this yet.</p>
      <ol v-else>
        <li v-for="item in shown?.items" :key="item.type + item.id">
          <RouterLink :to="item.link">
            <component :is="icon(item)" :size="15" :stroke-width="1.5" />
            <span class="title" :class="{ mono: item.type === 'container' }">{{ item.title }}</span>
            <time class="mono quiet">{{ time.short(item.at) }}</time>
            <small class="quiet">{{ item.subtitle }}</small>
          </RouterLink>
        </li>
      </ol>
    </template>
    <p v-else class="quiet">Select something: everything related to it stands here, newest first.</p>
  </aside>
</template>

<style scoped>
.kin {
  grid-area: kin;
  width: 320px;
  border-left: 1px solid var(--hairline);
  padding: 16px 16px;
  overflow: auto;
}
h2 {
  margin-bottom: 10px;
  overflow-wrap: anywhere;
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
