<script setup lang="ts">
import { Eye, EyeOff } from '@lucide/vue';
import { refDebounced, useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';
import { keyOf } from './element-state.ts';
import { elementsOf, treeOf, type LoadedModel, type TreeNode } from './models.ts';
import type { ElementRef } from './scene-engine.ts';

/** Elements by storey and class, with search; what is hidden is pale, what is selected bold. */
const props = defineProps<{
  models: readonly LoadedModel[];
  titleOf: (versionId: string) => string;
  selection: readonly ElementRef[];
  isHidden: (ref: ElementRef) => boolean;
}>();
const emit = defineEmits<{ select: [refs: ElementRef[], add: boolean]; toggle: [refs: ElementRef[]] }>();

const typed = ref('');
const words = refDebounced(typed, 200);
const tree = computed(() => props.models.map((model) => treeOf(model, props.titleOf(model.versionId), words.value)));
const box = ref<HTMLElement>();
const { height } = useElementSize(box);
const selected = computed(() => new Set(props.selection.map(keyOf)));
const isSelected = ({ versionId: model, row }: TreeNode): boolean =>
  row !== undefined && selected.value.has(keyOf({ model, row }));
const isGone = (node: TreeNode): boolean =>
  node.row !== undefined
    ? props.isHidden({ model: node.versionId, row: node.row })
    : (node.children ?? []).every(isGone);
function choose(node: unknown, _inner: unknown, event: MouseEvent): void {
  const chosen = node as TreeNode;
  if (chosen.row !== undefined) emit('select', elementsOf(chosen), event.ctrlKey || event.shiftKey);
}
</script>

<template>
  <h2>Elements</h2>
  <el-input
    v-model="typed"
    size="small"
    placeholder="Name, class, type or GlobalId"
    clearable
    aria-label="Search elements"
  />
  <div ref="box" class="tree">
    <el-tree-v2
      :data="tree"
      :props="{ value: 'key', label: 'label', children: 'children' }"
      :height="height"
      :item-size="24"
      :indent="12"
      :default-expanded-keys="tree.map(({ key }) => key)"
      @node-click="choose"
    >
      <template #default="{ data: node }">
        <span class="node" :class="{ gone: isGone(node), on: isSelected(node) }">
          <span class="label" :title="node.label">{{ node.label }}</span>
          <small v-if="node.children" class="mono quiet">{{ node.count }}</small>
          <button :aria-label="`Show or hide ${node.label}`" @click.stop="emit('toggle', elementsOf(node))">
            <component :is="isGone(node) ? EyeOff : Eye" :size="13" :stroke-width="1.5" />
          </button>
        </span>
      </template>
    </el-tree-v2>
  </div>
</template>

<style scoped>
h2 {
  margin-top: 12px;
}
.el-input {
  padding-right: 12px;
  margin: 4px 0;
}
.tree {
  flex: 1;
  min-height: 220px;
  --el-fill-color-blank: transparent;
}
.node {
  display: flex;
  align-items: center;
  gap: 5px;
  width: 100%;
  min-width: 0;
  font-size: 12px;
}
.label {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.node.gone {
  color: var(--graphite);
  text-decoration: line-through;
}
.node.on {
  font-weight: 600;
  color: var(--action);
}
.node button {
  display: flex;
  min-width: 24px;
  min-height: 24px;
  align-items: center;
  justify-content: center;
  border: 0;
  padding: 0;
  background: none;
  cursor: pointer;
  color: var(--graphite);
}
</style>
