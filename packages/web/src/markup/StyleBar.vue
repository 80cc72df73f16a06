<script setup lang="ts">
/** How marks are drawn: colour, line, tint. For what is drawn next, and for what is chosen. */
import type { MarkupStyle } from '@kindred/core/markup/shapes';

const props = defineProps<{ look: MarkupStyle }>();
const emit = defineEmits<{ change: [MarkupStyle] }>();

const PENS = [
  ['ink', '#1D2A2F'],
  ['rust', '#B4502D'],
  ['moss', '#14706A'],
  ['slate blue', '#3F6188'],
  ['plum', '#6B3F69'],
  ['ochre', '#B8860B'],
] as const;
const WIDTHS = [
  [0.7, 'hair line'],
  [1.6, 'fine line'],
  [3, 'broad line'],
  [6, 'very broad line'],
] as const;
const OPACITIES = [1, 0.6, 0.3];

/** What is as usual is not written. */
function set(part: Partial<MarkupStyle>): void {
  const next = { ...props.look, ...part };
  if (next.filled) delete next.filled;
  if (next.opacity === 1) delete next.opacity;
  for (const key of Object.keys(next) as (keyof MarkupStyle)[]) if (next[key] === undefined) delete next[key];
  emit('change', next);
}
const isPen = (colour: string): boolean => props.look.colour?.toUpperCase() === colour;
</script>

<template>
  <div class="style" role="group" aria-label="How it is drawn">
    <button
      class="pen status"
      :class="{ active: !look.colour }"
      :aria-pressed="!look.colour"
      @click="set({ colour: undefined })"
    >
      as its status
    </button>
    <button
      v-for="[name, colour] in PENS"
      :key="name"
      class="pen"
      :class="{ active: isPen(colour) }"
      :aria-pressed="isPen(colour)"
      :aria-label="`Pen: ${name}`"
      :title="name"
      @click="set({ colour })"
    >
      <i :style="{ background: colour }" />
    </button>
    <span class="gap" />
    <button
      v-for="[width, name] in WIDTHS"
      :key="width"
      class="pen"
      :class="{ active: look.width === width }"
      :aria-pressed="look.width === width"
      :aria-label="name"
      :title="name"
      @click="set({ width: look.width === width ? undefined : width })"
    >
      <b :style="{ height: `${Math.max(1, width)}px` }" />
    </button>
    <span class="gap" />
    <label class="row"
      ><input
        type="checkbox"
        :checked="look.filled !== false"
        @change="set({ filled: ($event.target as HTMLInputElement).checked })"
      />
      tint</label
    >
    <el-select
      :model-value="look.opacity ?? 1"
      size="small"
      style="width: 78px"
      aria-label="How dense"
      @update:model-value="set({ opacity: $event })"
      ><el-option v-for="one in OPACITIES" :key="one" :value="one" :label="`${one * 100} %`"
    /></el-select>
  </div>
</template>

<style scoped>
.style {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 3px 12px;
  border-top: 1px solid var(--hairline);
  font-size: 12px;
  overflow-x: auto;
  white-space: nowrap;
}
.style > * {
  flex: none;
}
.pen {
  display: grid;
  place-items: center;
  width: 26px;
  min-width: 26px;
  height: 26px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  cursor: pointer;
}
.pen.status {
  width: auto;
  padding: 0 8px;
  color: var(--ink);
  font: inherit;
}
.pen.active {
  border-color: var(--action);
  background: var(--action-wash);
}
.pen i {
  width: 14px;
  height: 14px;
  transform: rotate(45deg) scale(0.8);
}
.pen b {
  width: 16px;
  background: var(--ink);
}
label {
  flex-wrap: nowrap;
  gap: 4px;
  margin-right: 8px;
}
.gap {
  min-width: 10px;
}
</style>
