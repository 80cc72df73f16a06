<script setup lang="ts">
/** The clashes that an issue was raised from: as long as one is there the issue is not solved; when all are gone it can be closed. */
import { listClashesOfIssue } from '@kindred/contract/clash/clashes';
import { counted } from '@kindred/words/sentence';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { day } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ issueId: string; mayClose: boolean }>();
const emit = defineEmits<{ close: [reason: string] }>();
const project = useProject();
const { data } = useQuery({
  key: () => [project.projectId, 'clash rule', 'issue', props.issueId],
  query: () => call(listClashesOfIssue, { params: { ...project.params, issueId: props.issueId } }),
});
const all = computed(() => data.value ?? []);
const left = computed(() => all.value.filter(({ clash }) => clash.state !== 'gone'));
const lastGone = computed(() =>
  all.value
    .flatMap(({ goneAt }) => goneAt ?? [])
    .sort()
    .at(-1),
);
const first = computed(() => all.value[0]);
/** Models in which they were: their newest versions say what moved. */
const models = computed(() => [...new Set(all.value.flatMap(({ clash: { a, b } }) => [a.containerId, b.containerId]))]);
const gone = computed(() =>
  all.value.length === 1 ? 'Its clash is gone' : `All ${all.value.length} clashes are gone`,
);
</script>

<template>
  <section v-if="first" class="watch" aria-label="Clashes of the issue">
    <p v-if="left.length" role="status">
      {{ left.length }} of {{ counted(all.length, 'clash', 'clashes') }} {{ left.length === 1 ? 'is' : 'are' }} there
      still
    </p>
    <p v-else role="status">
      <b>{{ gone }}</b><template v-if="lastGone">, since {{ day(lastGone) }}</template>
      <el-button v-if="mayClose" size="small" type="primary" @click="emit('close', `${gone}: ${first.rule}.`)"
        >Close the issue</el-button
      >
    </p>
    <p class="row links">
      <RouterLink
        :to="{ name: 'clashes', params: { ...project.params, ruleId: first.ruleId }, query: { clash: first.clash.id } }"
        >{{ first.rule }}</RouterLink
      >
      <RouterLink
        v-for="(containerId, i) in models"
        :key="containerId"
        :to="{ name: 'model-changes', params: { ...project.params, containerId } }"
        >What changed in {{ models.length > 1 ? (i ? 'the other model' : 'one model') : 'the model' }}</RouterLink
      >
    </p>
  </section>
</template>

<style scoped>
.watch {
  margin: 10px 0;
  padding: 8px 12px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
p {
  margin: 2px 0;
}
.links {
  gap: 16px;
  flex-wrap: wrap;
}
</style>
