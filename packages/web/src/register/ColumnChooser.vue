<script setup lang="ts">
import { Columns3, GripVertical } from '@lucide/vue';
import { computed, defineAsyncComponent, ref } from 'vue';
import { COLUMNS, columnOf, fieldColumn } from './columns.ts';
import { useRegisterWords } from './words.ts';

const VueDraggable = defineAsyncComponent(async () => (await import('vue-draggable-plus')).VueDraggable);

/** Which columns are there, and in which order: drag, or use the arrow keys on a column's handle. */
const keys = defineModel<string[]>({ required: true });
const words = useRegisterWords();
const open = ref(false);
const others = computed(() =>
  [...COLUMNS.map(({ key }) => key), ...words.fields.value.map(fieldColumn)].filter((key) => !keys.value.includes(key)),
);
function move(index: number, by: number): void {
  const next = [...keys.value];
  const [key] = next.splice(index, 1);
  next.splice(Math.max(0, index + by), 0, key!);
  keys.value = next;
}
</script>

<template>
  <el-popover v-model:visible="open" trigger="click" placement="bottom-end" :width="240">
    <template #reference>
      <el-button aria-label="Columns" title="Columns"><Columns3 :size="15" /></el-button>
    </template>
    <div v-if="open" class="columns">
      <VueDraggable v-model="keys" handle=".handle" :animation="120">
        <div v-for="(key, i) in keys" :key="key" class="column">
          <button
            class="handle"
            :aria-label="`Move the column ${columnOf(key)?.word}`"
            @keydown.up.prevent="move(i, -1)"
            @keydown.down.prevent="move(i, 1)"
          >
            <GripVertical :size="13" />
          </button>
          <label
            ><input type="checkbox" checked @change="keys = keys.filter((one) => one !== key)" />
            {{ columnOf(key)?.word }}</label
          >
        </div>
      </VueDraggable>
      <div v-for="key in others" :key="key" class="column">
        <span class="handle"></span>
        <label
          ><input type="checkbox" :checked="false" @change="keys = [...keys, key]" /> {{ columnOf(key)?.word }}</label
        >
      </div>
    </div>
  </el-popover>
</template>

<style scoped>
.columns {
  max-height: 420px;
  overflow: auto;
  font-size: 12px;
}
.column {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 24px;
}
.column label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.handle {
  width: 18px;
  border: 0;
  background: none;
  padding: 0;
  display: flex;
  color: var(--graphite);
  cursor: grab;
}
</style>
