<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import type { EditableKey } from './columns.ts';

/** One value changed where it stands: Enter keeps, Escape leaves it. */
const props = defineProps<{ name: EditableKey; value: string; label: string }>();
const emit = defineEmits<{ keep: [string]; leave: [] }>();
const naming = useNaming();
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
const LISTS: Partial<Record<EditableKey, () => { code: string; meaning: string }[] | undefined>> = {
  status: () => naming.naming?.statuses,
  classification: () => naming.naming?.classifications,
};
</script>

<template>
  <span class="cell-editor">
    <input
      ref="input"
      v-model="value"
      :aria-label="label"
      :list="LISTS[name] ? `values-of-${name}` : undefined"
      :class="{ mono: name !== 'title' && name !== 'description' }"
      @click.stop
      @dblclick.stop
      @keydown.stop.enter="end(true)"
      @keydown.stop.esc="end(false)"
      @keydown.stop
      @blur="end(true)"
    />
    <datalist v-if="LISTS[name]" :id="`values-of-${name}`">
      <option v-for="code in LISTS[name]!()" :key="code.code" :value="code.code">{{ code.meaning }}</option>
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
