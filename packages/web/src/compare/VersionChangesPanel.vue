<script setup lang="ts">
/** What changed in a version of a drawing or a model since the one before, in a line that leads there; nothing where it was never compared. */
import { listComparisons } from '@kindred/contract/compare/compare';
import { sayVerdict } from '@kindred/words/sheet-changes';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ containerId: string; versionId: string }>();
const project = useProject();
/** Asked once for all versions of a container. */
const { data } = useQuery({
  key: () => [project.projectId, 'comparison', 'container', props.containerId],
  query: () => call(listComparisons, { params: project.params, query: { containerId: props.containerId } }),
});
const comparison = computed(
  () =>
    (data.value?.items ?? [])
      .filter(({ after, status }) => after.id === props.versionId && status === 'ready')
      .sort((a, b) => b.before.number - a.before.number)[0],
);
</script>

<template>
  <RouterLink
    v-if="comparison"
    :to="{
      name: comparison.kind === 'model' ? 'model-changes' : 'sheet-changes',
      params: { ...project.params, containerId },
      query: { before: comparison.before.number, after: comparison.after.number },
    }"
    >{{ sayVerdict(comparison.counts, comparison.brief) }} since version {{ comparison.before.number }}</RouterLink
  >
</template>
