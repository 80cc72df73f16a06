<script setup lang="ts">
/** The sections that cut the models: pushed, turned over, taken away. */
import { FlipHorizontal2, X } from '@lucide/vue';
import { useLength } from '../platform/length.ts';
import { flipped, pushed, type Cuts, type Section } from './engine/sections.ts';

const props = defineProps<{
  cuts: Cuts;
  /** From where to where the models reach along a direction, metres along it. */
  rangeOf: (direction: Section['direction']) => readonly [number, number];
}>();
const emit = defineEmits<{ change: [cuts: Cuts] }>();
const length = useLength();

const along = ({ at, direction }: Section): number => at.reduce((sum, value, i) => sum + value * direction[i]!, 0);
const change = (i: number, to: Section): void =>
  emit('change', { ...props.cuts, sections: props.cuts.sections.map((one, k) => (k === i ? to : one)) });
const remove = (i: number): void =>
  emit('change', { ...props.cuts, sections: props.cuts.sections.filter((_, k) => k !== i) });
/** A level is told by its height, others by how far they lie along their direction. */
function placeOf(section: Section): string {
  const axis = section.direction.findIndex((value) => Math.abs(value) > 0.999);
  return length(axis < 0 ? along(section) : section.at[axis]!);
}
function nameOf({ direction }: Section): string {
  const axis = direction.findIndex((value) => Math.abs(value) > 0.999);
  return axis < 0 ? 'Section aslant' : `Section ${'XYZ'[axis]}`;
}
</script>

<template>
  <section v-if="cuts.sections.length || cuts.box" class="sections" aria-label="Sections">
    <div v-for="(section, i) in cuts.sections" :key="i" class="line">
      <b>{{ nameOf(section) }}</b>
      <el-slider
        :model-value="along(section)"
        :min="rangeOf(section.direction)[0]"
        :max="rangeOf(section.direction)[1]"
        :step="0.01"
        :show-tooltip="false"
        :aria-label="`Position of ${nameOf(section)}`"
        @update:model-value="change(i, pushed(section, Number($event) - along(section)))"
      />
      <span class="mono place">{{ placeOf(section) }}</span>
      <button title="Cut away the other side" @click="change(i, flipped(section))">
        <FlipHorizontal2 :size="14" />
      </button>
      <button title="Remove the section" @click="remove(i)"><X :size="14" /></button>
    </div>
    <div v-if="cuts.box" class="line">
      <b>Box</b><span class="quiet spread">Only what lies in it is drawn.</span>
      <button title="Remove the box" @click="emit('change', { ...cuts, box: null })"><X :size="14" /></button>
    </div>
  </section>
</template>

<style scoped>
.sections {
  position: absolute;
  left: 14px;
  top: 12px;
  width: 380px;
  max-width: calc(100% - 28px);
  background: var(--sheet);
  border: 1px solid var(--hairline);
  padding: 3px 6px 3px 12px;
}
.line {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 30px;
}
.el-slider,
.spread {
  flex: 1;
}
.place {
  min-width: 64px;
  text-align: right;
}
button {
  display: flex;
  align-items: center;
  justify-content: center;
  width: 26px;
  height: 26px;
  border: 0;
  background: none;
  color: var(--graphite);
  cursor: pointer;
}
button:hover {
  color: var(--ink);
}
</style>
