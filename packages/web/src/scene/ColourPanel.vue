<script setup lang="ts">
/** Colours elements by a property, with what each colour means and how many have it. */
import type { PropertyKey } from '@kindred/core/scene/element-index';
import { keyOf } from '@kindred/core/scene/element-index';
import { shallowRef, watch } from 'vue';
import type { Facts } from './facts/facts.ts';
import PropertySelect from './PropertySelect.vue';
import { colourValues, cssColour, type ColouredValue } from './value-colours.ts';

const props = defineProps<{ facts: Facts }>();
const by = defineModel<PropertyKey | null>({ required: true });
const emit = defineEmits<{ colour: [values: ColouredValue[] | null]; select: [elements: number[], add: boolean] }>();

const values = shallowRef<ColouredValue[]>([]);
watch(
  [by, props.facts.edition],
  async () => {
    const key = by.value;
    if (!key) {
      values.value = [];
      return emit('colour', null);
    }
    const groups = await props.facts.remote.group({ ...key });
    if (key !== by.value) return;
    const column = props.facts.columns.value.find((one) => keyOf(one) === keyOf(key));
    values.value = colourValues(groups, column?.numeric ?? false, column?.unit);
    emit('colour', values.value);
  },
  { immediate: true },
);
</script>

<template>
  <div class="colours">
    <PropertySelect v-model="by" :columns="facts.columns.value" label="Colour by" />
    <button
      v-for="value in values"
      :key="value.label"
      :title="`Select the ${value.count} elements`"
      @click="emit('select', [...value.elements], $event.ctrlKey || $event.shiftKey)"
    >
      <i :style="{ background: cssColour(value.colour) }" />
      <span>{{ value.label }}</span>
      <small class="mono">{{ value.count }}</small>
    </button>
    <p v-if="!by" class="quiet">Each value of a property gets a colour: fire rating, material, storey, width …</p>
  </div>
</template>

<style scoped>
.colours {
  display: grid;
  gap: 1px;
  padding: 10px 12px 10px 0;
  font-size: 12px;
}
button {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 26px;
  border: 0;
  padding: 0 4px;
  background: none;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button:hover {
  background: var(--wash);
}
i {
  width: 14px;
  height: 14px;
  border: 1px solid rgb(0 0 0 / 20%);
}
span {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
