<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue';

/** A dialog that begins in its first field, closes by Escape, and gives the focus back to where it was. */
defineProps<{ title: string; width?: number; top?: string }>();
const emit = defineEmits<{ close: [] }>();
const body = ref<HTMLElement>();
const before = document.activeElement;

const FIELDS =
  'input:not([type=hidden]):not([type=file]):not(:disabled), textarea:not(:disabled), select:not(:disabled)';
function begin(): void {
  // Whoever was quicker than the dialog's opening types on where they are.
  if (body.value?.contains(document.activeElement) && document.activeElement?.matches(FIELDS)) return;
  const first = body.value?.querySelector<HTMLElement>(FIELDS) ?? body.value?.querySelector<HTMLElement>('button');
  first?.focus();
}
/** Fields keep Escape to themselves; here it closes the dialog, unless a list stands open. */
function leave(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).getAttribute('aria-expanded') === 'true') return;
  event.stopPropagation();
  emit('close');
}
onBeforeUnmount(() => {
  // The page may have gone on to another meanwhile.
  if (before instanceof HTMLElement && before.isConnected) before.focus();
});
</script>

<template>
  <el-dialog
    model-value
    :title="title"
    :width="`min(${width ?? 560}px, 94vw)`"
    :top="top"
    append-to-body
    @opened="begin"
    @close="emit('close')"
  >
    <template v-if="$slots.header" #header><slot name="header" /></template>
    <div ref="body" @keydown.esc.capture="leave"><slot /></div>
    <template v-if="$slots.footer" #footer><slot name="footer" /></template>
  </el-dialog>
</template>
