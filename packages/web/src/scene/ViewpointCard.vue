<script setup lang="ts">
/** A viewpoint as it lies in a list: its picture, and what can be done with it. */
import type { ViewpointSummary } from '@kindred/contract/scene/scene';
import { counted } from '@kindred/words/sentence';
import { Ellipsis } from '@lucide/vue';
import { ref } from 'vue';
import PersonBadge from '../platform/PersonBadge.vue';

export type ViewpointAct = 'earlier' | 'later' | 'folder' | 'rename' | 'beside' | 'remove';
defineProps<{
  viewpoint: ViewpointSummary;
  picture: string;
  /** Where it opens. */
  to: object;
  date: string;
  /** Its place can be changed: it lies in the folder that is shown. */
  ordered: boolean;
  mayArrange: boolean;
}>();
const emit = defineEmits<{ act: [what: ViewpointAct] }>();
const open = ref(false);
function act(what: ViewpointAct): void {
  open.value = false;
  emit('act', what);
}
</script>

<template>
  <article class="card" :aria-label="viewpoint.name">
    <RouterLink :to="to">
      <img :src="picture" :alt="viewpoint.name" loading="lazy" draggable="false" />
      <b>{{ viewpoint.name }}</b>
    </RouterLink>
    <span class="row quiet"
      ><PersonBadge :person="viewpoint.author" /> {{ date }}, {{ counted(viewpoint.versionIds.length, 'model') }}
      <el-popover v-model:visible="open" trigger="click" placement="bottom-end" :width="210">
        <template #reference>
          <button class="more" :aria-label="`What to do with ${viewpoint.name}`"><Ellipsis :size="15" /></button>
        </template>
        <div v-if="open" v-arrow-keys="'button'" class="acts">
          <button @click="act('beside')">Two versions side by side</button>
          <template v-if="mayArrange">
            <button v-if="ordered" @click="act('earlier')">One place earlier</button>
            <button v-if="ordered" @click="act('later')">One place later</button>
            <button @click="act('folder')">Put into a folder …</button>
            <button @click="act('rename')">Rename …</button>
            <button @click="act('remove')">Remove …</button>
          </template>
        </div>
      </el-popover>
    </span>
    <span v-if="!ordered && viewpoint.folder" class="quiet">in {{ viewpoint.folder }}</span>
  </article>
</template>

<style scoped>
.card,
a {
  display: grid;
  gap: 5px;
  color: var(--ink);
  align-content: start;
}
a:hover {
  text-decoration: none;
}
img {
  width: 100%;
  aspect-ratio: 3 / 2;
  object-fit: cover;
  background: #eeebe2;
  border: 1px solid var(--hairline);
}
a:hover img {
  border-color: var(--action);
}
.more {
  margin-left: auto;
  min-width: 28px;
  min-height: 24px;
  border: 0;
  background: none;
  color: var(--graphite);
  cursor: pointer;
}
.acts {
  display: grid;
}
.acts button {
  min-height: 30px;
  padding: 0 6px;
  border: 0;
  background: none;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.acts button:hover {
  background: var(--wash);
}
</style>
