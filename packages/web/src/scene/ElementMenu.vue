<script setup lang="ts">
/** What one can do with the element under the pointer. */
import { onClickOutside, useEventListener } from '@vueuse/core';
import { nextTick, onMounted, ref } from 'vue';

export type MenuAct =
  | 'closer'
  | 'turn'
  | 'hide'
  | 'ghost'
  | 'isolate'
  | 'type'
  | 'storey'
  | 'system'
  | 'cut'
  | 'box'
  | 'show'
  | 'copy'
  | 'raise';
const props = defineProps<{
  x: number;
  y: number;
  /** Of the element; none where the pointer lies on nothing. */
  name: string | null;
  mayRaise: boolean;
}>();
const emit = defineEmits<{ act: [act: MenuAct]; close: [] }>();
const ACTS: readonly (readonly [MenuAct, string])[] = [
  ['closer', 'Look closer'],
  ['turn', 'Turn about it'],
  ['isolate', 'Isolate'],
  ['ghost', 'Make it a ghost'],
  ['hide', 'Hide'],
  ['type', 'Select the same type'],
  ['storey', 'Select the same type on this storey'],
  ['system', 'Select its system'],
  ['cut', 'Section at this face'],
  ['box', 'Section box around it'],
  ['copy', 'Copy GlobalId'],
];
const menu = ref<HTMLElement>();
onClickOutside(menu, () => emit('close'));
useEventListener('keydown', (event: KeyboardEvent) => event.key === 'Escape' && emit('close'));
/** Moved so that all of it is seen. */
const at = ref({ left: props.x, top: props.y });
onMounted(async () => {
  await nextTick();
  const { offsetWidth, offsetHeight, offsetParent } = menu.value!;
  const within = (start: number, size: number, all: number): number => Math.max(0, Math.min(start, all - size));
  at.value = {
    left: within(props.x, offsetWidth, offsetParent?.clientWidth ?? Infinity),
    top: within(props.y, offsetHeight, offsetParent?.clientHeight ?? Infinity),
  };
  menu.value!.querySelector('button')?.focus();
});
</script>

<template>
  <div
    ref="menu"
    v-arrow-keys="'button'"
    class="menu"
    role="menu"
    :style="{ left: `${at.left}px`, top: `${at.top}px` }"
  >
    <template v-if="name">
      <b>{{ name }}</b>
      <button v-for="[act, words] in ACTS" :key="act" role="menuitem" @click="emit('act', act)">{{ words }}</button>
      <button v-if="mayRaise" role="menuitem" @click="emit('act', 'raise')">Raise issue</button>
    </template>
    <button role="menuitem" @click="emit('act', 'show')">Show all</button>
  </div>
</template>

<style scoped>
.menu {
  position: absolute;
  z-index: 5;
  display: grid;
  min-width: 210px;
  max-width: 280px;
  max-height: 100%;
  overflow: auto;
  padding: 4px 0;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  box-shadow: 0 3px 12px rgb(0 0 0 / 14%);
  font-size: 12px;
}
b {
  padding: 5px 12px;
  border-bottom: 1px solid var(--hairline);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  min-height: 26px;
  padding: 0 12px;
  border: 0;
  background: none;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: var(--wash);
}
</style>
