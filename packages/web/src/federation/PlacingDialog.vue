<script setup lang="ts">
/** Puts a model to the others: by the numbers that were found, or by one's own; where it would lie is drawn meanwhile. */
import type { ModelPlace } from '@kindred/contract/federation/federations';
import { placeModel } from '@kindred/contract/scene/placings';
import { useQueryCache } from '@pinia/colada';
import { computed, reactive } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { useProject } from '../portfolio/store.ts';
import PlacesDrawing from './PlacesDrawing.vue';

const props = defineProps<{ name: string; place: ModelPlace; all: readonly { name: string; place: ModelPlace }[] }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const cache = useQueryCache();
const begin = props.place.placing ?? props.place.set?.placing ?? { turn: 0, shift: [0, 0, 0] };
const rounded = (value: number): number => Math.round(value * 1e6) / 1e6;
const form = reactive({ turn: rounded(begin.turn), x: begin.shift[0], y: begin.shift[1], z: begin.shift[2] });
const FIELDS = [
  { key: 'turn', label: 'Turn, ° counter-clockwise about its origin', most: 360 },
  { key: 'x', label: 'Shift along x, m', most: 1e8 },
  { key: 'y', label: 'Shift along y, m', most: 1e8 },
  { key: 'z', label: 'Shift upwards, m', most: 1e8 },
] as const;
const placing = computed(() => ({
  turn: form.turn,
  shift: [form.x, form.y, form.z] as [number, number, number],
}));
const isReady = computed(() => FIELDS.every(({ key }) => Number.isFinite(form[key])));
const drawn = computed(() =>
  props.all.map((one) =>
    one.place.containerId === props.place.containerId && isReady.value
      ? { ...one, place: { ...one.place, placing: placing.value } }
      : one,
  ),
);
async function save(): Promise<void> {
  const isNone = !form.turn && !form.x && !form.y && !form.z;
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
        <label v-for="{ key, label, most } in FIELDS" :key="key" class="field"
          ><span>{{ label }}</span
          ><el-input-number
            v-model="form[key]"
            :min="-most"
            :max="most"
            :controls="false"
            :precision="6"
            :aria-label="label"
            style="width: 100%"
        /></label>
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
