<script setup lang="ts">
/** Who changed an element, when and how: over all versions of its model that one sees. */
import { listElementHistory, type ElementMoment } from '@kindred/contract/compare/compare';
import { MODEL_CHANGE_WORDS, sayPropertyChange, sayShapeChange } from '@kindred/words/model-changes';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { day } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ versionId: string; globalId: string }>();
const project = useProject();
const { data } = useQuery({
  key: () => [project.projectId, 'comparison', 'element', props.versionId, props.globalId],
  query: () =>
    call(listElementHistory, {
      params: { ...project.params, versionId: props.versionId },
      query: { globalId: props.globalId },
    }),
});
/** The first version, those in which something changed, and those of which it is not known. */
const told = computed(() =>
  (data.value ?? []).filter(({ change, compared, before }) => change || !compared || before === null),
);
function say({ change, compared, before }: ElementMoment): string {
  if (change) return sayShapeChange(change) || MODEL_CHANGE_WORDS[change.kind];
  if (before === null) return 'there from the first version on';
  return compared ? '' : `not compared with version ${before}`;
}
</script>

<template>
  <section v-if="told.length" aria-label="History of the element">
    <h3>History</h3>
    <ol>
      <li v-for="moment in told" :key="moment.versionId">
        <b class="mono">{{ moment.number }}</b>
        <div>
          <p>{{ say(moment) }}</p>
          <p v-for="value in moment.change?.properties.slice(0, 4)" :key="`${value.set}/${value.name}`" class="value">
            {{ sayPropertyChange(value) }}
          </p>
          <p v-if="(moment.change?.properties.length ?? 0) > 4" class="quiet">
            and {{ moment.change!.properties.length - 4 }} more values
          </p>
          <p class="quiet">{{ moment.deliveredBy.name }}, {{ day(moment.deliveredAt) }}</p>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
h3 {
  font-size: 12px;
  font-weight: 600;
  margin: 12px 0 3px;
  border-bottom: 1px solid var(--hairline);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 22px 1fr;
  padding: 4px 0;
}
p {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
