<script setup lang="ts">
/** Elements by what one likes to find them by, with search over everything that is said of them. */
import { Eye, EyeOff } from '@lucide/vue';
import { refDebounced, useElementSize } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import {
  elementsOf,
  groupTree,
  levelTree,
  storeyTree,
  TREE_KEYS,
  TREES,
  type TreeKind,
  type TreeNode,
} from './element-tree.ts';
import { rowOf, slotOf } from './engine/element-numbers.ts';
import type { PaintLayers } from './engine/paint-layers.ts';
import type { Facts } from './facts/facts.ts';
import type { LoadedModel } from './models.ts';

const props = defineProps<{
  models: readonly LoadedModel[];
  titleOf: (versionId: string) => string;
  layers: PaintLayers;
  /** Grows with each change of the layers. */
  painted: number;
  facts: Facts;
}>();
const emit = defineEmits<{ select: [elements: number[], add: boolean]; toggle: [elements: number[]] }>();

const kind = ref<TreeKind>('storey');
const typed = ref('');
const words = refDebounced(typed, 120);
const tree = shallowRef<TreeNode[]>([]);
const found = ref<number | null>(null);

const NONE: Record<TreeKind, string> = {
  storey: '',
  level: '',
  class: 'Without a class',
  type: 'Without a type',
  material: 'Without a material',
  system: 'In no system',
  classification: 'Not classified',
  discipline: 'Of no discipline',
  party: 'Of no party',
};
let asked = 0;
async function grow(): Promise<void> {
  const mine = ++asked;
  const { remote } = props.facts;
  const matches = words.value.trim() ? await remote.search(words.value) : undefined;
  const by = kind.value;
  const groups = by === 'storey' || by === 'level' ? [] : await remote.group({ ...TREE_KEYS[by] }, matches);
  if (mine !== asked) return;
  found.value = matches ? matches.length : null;
  const only = (slot: number): ReadonlySet<number> | null => rowsIn(slot, matches);
  tree.value =
    by === 'storey'
      ? props.models.map((model) => storeyTree(model, props.titleOf(model.versionId), only(model.slot)))
      : by === 'level'
        ? levelTree(props.models, only)
        : groupTree(groups, props.models, NONE[by]);
}
/** What is said of elements is not asked for these. */
const isOfModels = computed(() => kind.value === 'storey' || kind.value === 'level');
function rowsIn(slot: number, matches: Float64Array | undefined): ReadonlySet<number> | null {
  return matches
    ? new Set(
        Array.from(
          matches.filter((element) => slotOf(element) === slot),
          rowOf,
        ),
      )
    : null;
}
watch([words, kind, () => props.models], () => void grow(), { immediate: true });
// Trees that come from the models themselves stay as one unfolded them.
watch(props.facts.edition, () => (words.value.trim() || !isOfModels.value) && void grow());

const box = ref<HTMLElement>();
const { height } = useElementSize(box);
/** What was found is seen at once where it is not too much. */
const SEEN_AT_ONCE = 300;
const branches = (nodes: readonly TreeNode[]): string[] =>
  nodes.flatMap(({ key, children }) => (children ? [key, ...branches(children)] : []));
const open = computed(() => {
  if (found.value !== null && found.value <= SEEN_AT_ONCE) return branches(tree.value);
  return kind.value === 'storey' ? tree.value.map(({ key }) => key) : [];
});
const isGone = (node: TreeNode): boolean =>
  node.element !== undefined
    ? props.painted >= 0 && props.layers.isHidden(node.element)
    : (node.children ?? []).every(isGone);
const isSelected = ({ element }: TreeNode): boolean =>
  props.painted >= 0 && element !== undefined && props.layers.selection.has(element);
function choose(node: unknown, _inner: unknown, event: MouseEvent): void {
  const chosen = node as TreeNode;
  if (chosen.element !== undefined) emit('select', [chosen.element], event.ctrlKey || event.shiftKey);
}
</script>

<template>
  <div class="row head">
    <label class="quiet"
      >by
      <select v-model="kind" aria-label="Elements by">
        <option v-for="one in TREES" :key="one" :value="one">
          {{ one === 'level' ? 'level of all models' : one }}
        </option>
      </select></label
    >
  </div>
  <el-input
    v-model="typed"
    size="small"
    placeholder="Name, type, property, GlobalId"
    clearable
    aria-label="Search elements"
  />
  <p v-if="found !== null" class="row found">
    <span class="mono">{{ found }}</span> found
    <button v-if="found" class="button-link" @click="emit('select', tree.flatMap(elementsOf), false)">
      Select all
    </button>
  </p>
  <div ref="box" class="tree">
    <el-tree-v2
      :data="tree"
      :props="{ value: 'key', label: 'label', children: 'children' }"
      :height="height"
      :item-size="24"
      :indent="12"
      :default-expanded-keys="open"
      @node-click="choose"
    >
      <template #default="{ data: node }">
        <span class="node" :class="{ gone: isGone(node), on: isSelected(node) }">
          <span class="label" :title="node.label">{{ node.label }}</span>
          <button
            v-if="node.children"
            class="mono count"
            :title="`Select the ${node.count} elements of ${node.label}`"
            @click.stop="emit('select', elementsOf(node), $event.ctrlKey || $event.shiftKey)"
          >
            {{ node.count }}
          </button>
          <button :aria-label="`Show or hide ${node.label}`" @click.stop="emit('toggle', elementsOf(node))">
            <component :is="isGone(node) ? EyeOff : Eye" :size="13" :stroke-width="1.5" />
          </button>
        </span>
      </template>
    </el-tree-v2>
  </div>
</template>

<style scoped>
.head {
  margin-top: 6px;
  padding-right: 12px;
}
select {
  border: 0;
  background: none;
  font: inherit;
  color: var(--action);
  min-height: 24px;
}
.el-input {
  padding-right: 12px;
  margin: 4px 0;
}
.found {
  margin: 0;
  gap: 4px;
  font-size: 12px;
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
.count {
  font-size: 11px;
}
.count:hover {
  color: var(--action);
}
</style>
