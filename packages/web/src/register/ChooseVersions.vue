<script setup lang="ts">
/** Chooses containers by search; their current versions, or the ones that were handed over. */
import { listContainers, type Container } from '@kindred/contract/register/register';
import { X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { refDebounced } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ preset: string[]; sharedOnly?: boolean }>();
const chosen = defineModel<string[]>({ required: true });
const project = useProject();
const typed = ref('');
const words = refDebounced(typed, 200);
const known = ref(new Map<string, Container>());
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'choose', words.value],
  query: () =>
    call(listContainers, {
      params: project.params,
      query: { limit: 100, ...(words.value.trim() && { q: words.value.trim() }) },
    }),
});
watch(data, (page) => {
  for (const item of page?.items ?? []) known.value.set(item.versionId, item);
  if (!chosen.value.length && props.preset.length) chosen.value = props.preset.filter((id) => known.value.has(id));
});
const offered = computed(() =>
  (data.value?.items ?? []).filter(
    ({ versionId, state }) => !chosen.value.includes(versionId) && (!props.sharedOnly || state !== 'work in progress'),
  ),
);
</script>

<template>
  <div class="choose">
    <el-select
      :model-value="''"
      filterable
      remote
      :remote-method="(q: string) => (typed = q)"
      placeholder="Add by code or title"
      aria-label="Add a document"
      @update:model-value="chosen = [...chosen, $event]"
    >
      <el-option
        v-for="item in offered"
        :key="item.versionId"
        :value="item.versionId"
        :label="`${item.code} ${item.title}`"
        ><span class="mono">{{ item.code }}</span> {{ item.title }}
        <span class="quiet">{{ item.revision }}</span></el-option
      >
    </el-select>
    <ul>
      <li v-for="id in chosen" :key="id" class="row">
        <span class="mono">{{ known.get(id)?.code }}</span><span class="spread">{{ known.get(id)?.title }}</span
        ><span class="mono quiet">{{ known.get(id)?.revision }} · version {{ known.get(id)?.versionNumber }}</span>
        <button
          class="button-link"
          :aria-label="`Leave out ${known.get(id)?.code}`"
          @click.prevent="chosen = chosen.filter((other) => other !== id)"
        >
          <X :size="14" />
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.choose {
  display: grid;
  gap: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 170px;
  overflow: auto;
  font-size: 12px;
}
li {
  padding: 4px 6px;
  border-bottom: 1px solid var(--wash);
}
</style>
