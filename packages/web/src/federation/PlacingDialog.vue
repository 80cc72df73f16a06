<script setup lang="ts">
/** Puts a model to the others: by the numbers that were found, or by one's own; where it would lie is drawn meanwhile. */
import type { ModelPlace } from '@kindred/contract/federation/federations';
import { placeModel } from '@kindred/contract/scene/placings';
import { useQueryCache } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { useProject } from '../portfolio/store.ts';
import PlacesDrawing from './PlacesDrawing.vue';

const props = defineProps<{ name: string; place: ModelPlace; all: readonly { name: string; place: ModelPlace }[] }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const cache = useQueryCache();
const { turn, shift } = props.place.placing ?? props.place.set?.placing ?? { turn: 0, shift: [0, 0, 0] };
const FIELDS = [
  { label: 'Turn, ° counter-clockwise about its origin', most: 360 },
  { label: 'Shift along x, m', most: 1e8 },
  { label: 'Shift along y, m', most: 1e8 },
  { label: 'Shift upwards, m', most: 1e8 },
] as const;
const written = ref([turn, ...shift].map((value) => String(Math.round(value * 1e6) / 1e6)));
const numbers = computed(() => written.value.map((value) => (value.trim() ? Number(value) : NaN)));
const isReady = computed(() => FIELDS.every(({ most }, i) => Math.abs(numbers.value[i]!) <= most));
const placing = computed(() => {
  const [turned, x, y, z] = numbers.value as [number, number, number, number];
  return { turn: turned, shift: [x, y, z] as [number, number, number] };
});
const drawn = computed(() =>
  props.all.map((one) =>
    one.place.containerId === props.place.containerId && isReady.value
      ? { ...one, place: { ...one.place, placing: placing.value } }
      : one,
  ),
);
async function save(): Promise<void> {
  const isNone = numbers.value.every((value) => value === 0);
  await call(placeModel, {
    params: { ...project.params, containerId: props.place.containerId },
    body: { placing: isNone ? null : placing.value },
  });
  await cache.invalidateQueries({ key: [project.projectId, 'container', 'places'] });
}
</script>

<template>
  <FormDialog
    :title="`Place ${name}`"
    verb="Place model"
    :ready="isReady"
    :run="save"
    :width="720"
    @close="emit('close')"
  >
    <div class="two">
      <div>
        <label v-for="({ label }, i) in FIELDS" :key="label" class="field"
          ><span>{{ label }}</span
          ><el-input v-model="written[i]" type="number" step="any" :aria-label="label" />
        </label>
        <p class="quiet">
          Holds for everyone, in scenes, plans and clashes, and for every version of this model; its rules of clashes
          run again. The file stays as it was delivered. Viewpoints and marks that were saved keep their place.
        </p>
      </div>
      <PlacesDrawing :places="drawn" />
    </div>
  </FormDialog>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 18px;
  align-items: start;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
