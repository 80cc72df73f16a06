<script setup lang="ts">
import { storeyOf } from '@kindred/core/scene/storeys';
import { showElementProperties } from '@kindred/contract/scene/scene';
import { useQuery } from '@pinia/colada';
import { sayConverted, sayValue, type PropertyValue } from '@kindred/words/property-values';
import { useMeasureUnits } from '../identity/measure-units.ts';
import { usePreference } from '../identity/preferences.ts';
import { call } from '../platform/api.ts';
import type { LoadedModel } from './models.ts';
import { computed } from 'vue';

const props = defineProps<{
  projectId: string;
  /** Of the element in the table of its model. */
  row: number;
  model: Pick<LoadedModel, 'versionId' | 'table'>;
  /** The version that it comes from; not said where that is plain. */
  from?: string;
  others: number;
  /** Whether it can be copied and exported from here. */
  acts?: boolean;
}>();
const emit = defineEmits<{ copy: []; export: [] }>();
const { data: sets } = useQuery({
  key: () => [props.projectId, 'properties', props.model.versionId, props.row],
  query: () =>
    call(showElementProperties, {
      params: { projectId: props.projectId, versionId: props.model.versionId, row: props.row },
    }),
});
const about = computed(() => {
  const { table } = props.model;
  const { row } = props;
  return [
    ['Class', table.classes[table.class[row]!]!],
    ['Type', table.types[table.type[row]!] ?? ''],
    ['Storey', table.nodes[storeyOf(table.nodes, table.node[row]!)]?.name ?? ''],
    ['GlobalId', table.globalId[row]!],
    ['Model', props.from ?? ''],
  ].filter(([, value]) => value);
});
/** In the units of whoever reads, where they wish it; else as the author wrote it. */
const converted = usePreference('convert-properties', false);
const { units } = useMeasureUnits();
const shown = (property: PropertyValue): string =>
  (converted.value && sayConverted(property, units.value)) || sayValue(property);
</script>

<template>
  <section class="properties" aria-label="Properties">
    <h2>{{ model.table.name[row] || 'Without a name' }}</h2>
    <p v-if="others" class="quiet">and {{ others }} more selected</p>
    <p v-if="acts" class="row acts">
      <button class="button-link" @click="emit('copy')">Copy</button>
      <button class="button-link" @click="emit('export')">Export XLSX</button>
    </p>
    <dl>
      <template v-for="[name, value] in about" :key="name"
        ><dt>{{ name }}</dt>
        <dd :class="{ mono: name === 'GlobalId' }">{{ value }}</dd></template
      >
    </dl>
    <label v-if="sets?.length" class="row"><input v-model="converted" type="checkbox" /> in my units</label>
    <template v-for="(set, i) in sets" :key="i">
      <h3>{{ set.name }} <span v-if="set.from === 'type'" class="quiet">of the type</span></h3>
      <dl>
        <template v-for="property in set.properties" :key="property.name"
          ><dt>{{ property.name }}</dt>
          <dd :class="{ mono: typeof property.value === 'number', quiet: property.overridden }">
            <component
              :is="property.overridden ? 's' : 'span'"
              :title="property.overridden ? 'The element has a value of its own' : sayValue(property)"
              >{{ shown(property) }}</component
            >
          </dd></template
        >
      </dl>
    </template>
    <slot />
  </section>
</template>

<style scoped>
.properties {
  padding: 12px;
  overflow: auto;
  font-size: 12px;
}

.acts {
  gap: 12px;
  margin: 4px 0;
}
h3 {
  font-size: 12px;
  font-weight: 600;
  margin: 12px 0 3px;
  border-bottom: 1px solid var(--hairline);
}
dl {
  display: grid;
  grid-template-columns: 44% 1fr;
  gap: 2px 8px;
  margin: 4px 0;
}
dt {
  color: var(--graphite);
  overflow-wrap: anywhere;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
