<script setup lang="ts">
import { onMounted, ref } from 'vue';
import type { EditableKey } from './columns.ts';

/** One value changed where it stands: Enter keeps, Escape leaves it. */
const props = defineProps<{
  name: EditableKey;
  value: string;
  label: string;
  /** What is offered while one types. */
  codes: readonly { code: string; meaning: string }[];
}>();
const emit = defineEmits<{ keep: [string]; leave: [] }>();
const value = ref(props.value);
const input = ref<HTMLInputElement>();
onMounted(() => {
  input.value?.focus();
  input.value?.select();
});
let left = false;
function end(keep: boolean): void {
  if (left) return;
  left = true;
  if (keep && value.value.trim() !== props.value) emit('keep', value.value.trim());
  else emit('leave');
}
</script>

<template>
  <span class="cell-editor">
    <input
      ref="input"
      v-model="value"
      :aria-label="label"
      :list="codes.length ? `values-of-${name}` : undefined"
      :class="{ mono: name !== 'title' && name !== 'description' }"
      @click.stop
      @dblclick.stop
      @keydown.stop.enter="end(true)"
      @keydown.stop.esc="end(false)"
      @keydown.stop
      @blur="end(true)"
    />
    <datalist v-if="codes.length" :id="`values-of-${name}`">
      <option v-for="code in codes" :key="code.code" :value="code.code">{{ code.meaning }}</option>
    </datalist>
  </span>
</template>

<style scoped>
input {
  width: 100%;
  border: 1px solid var(--action);
  border-radius: 3px;
  padding: 2px 4px;
  font-size: 12px;
  background: var(--sheet);
  color: var(--ink);
}
</style>
