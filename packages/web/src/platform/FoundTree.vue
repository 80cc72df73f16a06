<script lang="ts">
export interface FoundNode {
  key: string;
  label: string;
  /** Leaves below. */
  count: number;
  children?: FoundNode[];
}
</script>

<script setup lang="ts" generic="Node extends FoundNode, By extends string">
/** Things in a tree that is ordered as one likes, with a search above; only what is in sight is drawn. */
import { useElementSize } from '@vueuse/core';
import { nextTick, ref, watch } from 'vue';

const props = defineProps<{
  tree: readonly Node[];
  /** What the things are called: `clashes`. */
  things: string;
  orders: readonly By[];
  placeholder: string;
  /** Branches that are open at first. */
  open: string[];
  /** The leaf that is chosen is kept in sight. */
  chosen: string | undefined;
}>();
const words = defineModel<string>('words', { required: true });
const by = defineModel<By>('by', { required: true });
const emit = defineEmits<{ choose: [node: Node] }>();
defineSlots<{ default(props: { node: Node }): unknown }>();

const box = ref<HTMLElement>();
const { height } = useElementSize(box);
const list = ref<{ scrollToNode(key: string, where: string): void }>();
watch(
  () => props.chosen,
  async (key) => {
    await nextTick();
    if (key !== undefined) list.value?.scrollToNode(key, 'smart');
  },
);
</script>

<template>
  <div class="row find">
    <el-input v-model="words" size="small" :placeholder="placeholder" clearable :aria-label="`Search ${things}`" />
    <label class="quiet"
      >by
      <select v-model="by" :aria-label="`${things[0]!.toUpperCase()}${things.slice(1)} by`">
        <option v-for="one in orders" :key="one" :value="one">{{ one }}</option>
      </select></label
    >
  </div>
  <div ref="box" class="tree">
    <el-tree-v2
      ref="list"
      :data="tree as Node[]"
      :props="{ value: 'key', label: 'label', children: 'children' }"
      :height="height"
      :item-size="26"
      :indent="9"
      :default-expanded-keys="open"
      @node-click="(node: unknown) => emit('choose', node as Node)"
    >
      <template #default="{ data: node }"><slot :node="node as Node" /></template>
    </el-tree-v2>
  </div>
</template>

<style scoped>
.find {
  gap: 8px;
  padding: 0 12px 4px;
}
.find label {
  display: flex;
  align-items: center;
  gap: 4px;
  white-space: nowrap;
}
select {
  border: 0;
  background: none;
  font: inherit;
  color: var(--action);
  min-height: 24px;
}
.tree {
  flex: 1;
  min-height: 220px;
  --el-fill-color-blank: transparent;
}
</style>
