<script setup lang="ts">
/** Viewpoints one after the other, for a meeting: all, or those of a folder. */
import { ChevronLeft, ChevronRight, X } from '@lucide/vue';
import { useEventListener } from '@vueuse/core';
import { computed } from 'vue';
import { isTyping } from '../platform/keyboard.ts';
import { useViewpoints } from './viewpoint-folder.ts';

const props = defineProps<{
  /** `*` for all. */
  folder: string;
  current: string;
}>();
const emit = defineEmits<{ show: [viewpointId: string]; close: [] }>();
const { items } = useViewpoints(() => (props.folder === '*' ? undefined : props.folder), true);
const at = computed(() => items.value.findIndex(({ id }) => id === props.current));
function go(by: number): void {
  const next = items.value[at.value + by];
  if (next) emit('show', next.id);
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (isTyping(event.target) || (event.key !== 'PageDown' && event.key !== 'PageUp')) return;
  event.preventDefault();
  go(event.key === 'PageDown' ? 1 : -1);
});
</script>

<template>
  <nav class="slides" aria-label="Viewpoints one after the other">
    <button :disabled="at <= 0" title="The one before (Page up)" aria-label="The viewpoint before" @click="go(-1)">
      <ChevronLeft :size="18" />
    </button>
    <p role="status">
      <b>{{ items[at]?.name }}</b> <span class="mono">{{ at + 1 }} of {{ items.length }}</span>
    </p>
    <button
      :disabled="at + 1 >= items.length"
      title="The next one (Page down)"
      aria-label="The next viewpoint"
      @click="go(1)"
    >
      <ChevronRight :size="18" />
    </button>
    <button aria-label="End" title="End" @click="emit('close')"><X :size="15" /></button>
  </nav>
</template>

<style scoped>
.slides {
  position: absolute;
  left: 50%;
  top: 12px;
  transform: translateX(-50%);
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 6px;
  background: var(--ink);
  color: #fff;
  max-width: calc(100% - 28px);
}
p {
  margin: 0;
  padding: 0 6px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  min-width: 32px;
  min-height: 34px;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
button:disabled {
  opacity: 0.35;
  cursor: default;
}
@media (max-width: 700px) {
  .slides {
    top: 56px;
  }
}
</style>
