<script setup lang="ts">
import { listBin, restoreContainers, type BinItem } from '@kindred/contract/register/bin';
import { useQueryCache } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { usePages } from '../platform/pages.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

/** What was taken out of the register, until the day when it goes for good. */
const project = useProject();
const time = useTime();
const cache = useQueryCache();
const { items, loaded, hasMore, more } = usePages(
  () => [project.projectId, 'container', 'bin'],
  (after) => call(listBin, { params: project.params, query: { limit: 100, ...(after && { after }) } }),
);
const chosen = ref<string[]>([]);
const all = computed(() => items.value.length > 0 && chosen.value.length === items.value.length);

async function restore(some: BinItem[]): Promise<void> {
  const containerIds = some.map(({ containerId }) => containerId);
  const done = await attempt(() => call(restoreContainers, { params: project.params, body: { containerIds } }));
  if (!done) return;
  chosen.value = [];
  sayDone(
    some.length === 1 ? `${some[0]!.code} is in the register again.` : `${some.length} are in the register again.`,
  );
  await cache.invalidateQueries({ key: [project.projectId, 'container'] });
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Bin</h1>
      <span class="quiet"
        >What was taken out of the register lies here with all its versions, until it goes for good.</span
      >
      <span class="spread" />
      <el-button
        v-if="chosen.length"
        type="primary"
        @click="restore(items.filter(({ containerId }) => chosen.includes(containerId)))"
        >Restore {{ chosen.length }}</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !items.length" title="The bin is empty"
      >Containers come here from the register: choose them there, then “More”.</EmptyPlace
    >
    <el-checkbox-group v-else v-model="chosen" class="wide">
      <table class="plain-table">
        <thead>
          <tr>
            <th>
              <el-checkbox
                :model-value="all"
                aria-label="Choose all"
                @update:model-value="chosen = $event ? items.map(({ containerId }) => containerId) : []"
              />
            </th>
            <th>Container</th>
            <th>Folder</th>
            <th class="right">Versions</th>
            <th>Removed</th>
            <th>Why</th>
            <th>Gone after</th>
            <th><span class="only-read">What to do</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in items" :key="item.containerId">
            <td><el-checkbox :value="item.containerId" :aria-label="`Choose ${item.code}`" /></td>
            <td>
              <span class="mono">{{ item.code }}</span><br /><span class="quiet">{{ item.title }}</span>
            </td>
            <td>{{ item.folder }}</td>
            <td class="mono right">{{ item.versions }}</td>
            <td>
              {{ time.moment(item.removedAt) }}<br /><span class="quiet">{{ item.removedBy }}</span>
            </td>
            <td>{{ item.reason }}</td>
            <td style="white-space: nowrap">{{ time.date(item.until) }}</td>
            <td><button class="button-link" @click="restore([item])">Restore</button></td>
          </tr>
        </tbody>
      </table>
    </el-checkbox-group>
    <MoreRows :has-more="hasMore" @more="more" />
  </div>
</template>

<style scoped>
.wide {
  overflow-x: auto;
  font-size: inherit;
  line-height: inherit;
}
.only-read {
  position: absolute;
  clip-path: inset(50%);
}
</style>
