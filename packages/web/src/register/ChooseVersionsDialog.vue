<script setup lang="ts">
/** Chooses containers by search; their current versions, or the ones that were handed over. */
import { listContainers, lookUpVersions, type Container } from '@kindred/contract/register/register';
import { X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { refDebounced } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ preset: string[]; sharedOnly?: boolean }>();
const chosen = defineModel<string[]>({ required: true });
const project = useProject();
const typed = ref('');
const words = refDebounced(typed, 200);
const known = ref(new Map<string, Container>());
const remember = (items: readonly Container[]): void => items.forEach((one) => known.value.set(one.versionId, one));
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'choose', words.value],
  query: () =>
    call(listContainers, {
      params: project.params,
      query: { limit: 100, ...(words.value.trim() && { q: words.value.trim() }) },
    }),
});
watch(data, (page) => remember(page?.items ?? []));
const fits = ({ state }: Container): boolean => !props.sharedOnly || state !== 'work in progress';
/** How many of those handed over are left out, because they cannot be chosen here or were followed by others meanwhile. */
const leftOut = ref(0);
onMounted(async () => {
  if (!props.preset.length) return;
  await attempt(async () => {
    const found = await call(lookUpVersions, { params: project.params, body: { versionIds: props.preset } });
    remember(found);
    const fitting = found.filter(fits).map(({ versionId }) => versionId);
    chosen.value = fitting;
    leftOut.value = props.preset.length - fitting.length;
  });
});
function saidOf(id: string): string {
  const one = known.value.get(id);
  return one ? [one.status, one.state, one.revision, `version ${one.versionNumber}`].filter(Boolean).join(' · ') : '';
}
const picked = computed(() => new Set(chosen.value));
const offered = computed(() =>
  (data.value?.items ?? []).filter((item) => !picked.value.has(item.versionId) && fits(item)),
);
const unshared = computed(() => chosen.value.filter((id) => known.value.get(id)?.state === 'work in progress').length);
</script>

<template>
  <div class="choose">
    <el-select
      :model-value="''"
      filterable
      default-first-option
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
    <p v-if="leftOut" class="sign needs-you full">
      {{ leftOut === 1 ? 'One' : leftOut }} of those chosen {{ leftOut === 1 ? 'is' : 'are' }} left out: work in
      progress, or followed by another version meanwhile.
    </p>
    <p v-if="unshared" class="sign needs-you full">
      {{ unshared === 1 ? 'One file is' : `${unshared} files are` }} work in progress: only people of your own team can
      get {{ unshared === 1 ? 'it' : 'them' }} like this.
    </p>
    <b v-if="chosen.length > 5" class="quiet">{{ chosen.length }} files</b>
    <ul>
      <li v-for="id in chosen" :key="id" class="row">
        <span class="mono">{{ known.get(id)?.code }}</span><span class="spread">{{ known.get(id)?.title }}</span
        ><span class="mono quiet">{{ saidOf(id) }}</span>
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
