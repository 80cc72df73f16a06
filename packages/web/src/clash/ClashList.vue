<script setup lang="ts">
/** Clashes in a tree, those of one cause together. */
import type { Clash, ClashGroup } from '@kindred/contract/clash/clashes';
import { useElementSize } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { CLASH_TREES, clashTree, countPiles, type ClashNode, type ClashTree } from './clash-tree.ts';
import { CLASH_PILES, PILE_LOOK, pileOf, type ClashPile } from './words.ts';

const props = defineProps<{
  all: readonly Clash[];
  /** Those that piles and words leave. */
  shown: readonly Clash[];
  groups: readonly ClashGroup[];
  chosen: ReadonlySet<string>;
}>();
const piles = defineModel<ClashPile[]>('piles', { required: true });
const words = defineModel<string>('words', { required: true });
const by = defineModel<ClashTree>('by', { required: true });
const emit = defineEmits<{ choose: [clashes: Clash[]] }>();

const counts = computed(() => countPiles(props.all));
const toggle = (pile: ClashPile): void => {
  piles.value = piles.value.includes(pile) ? piles.value.filter((one) => one !== pile) : [...piles.value, pile];
};
const tree = computed(() => clashTree(props.shown, props.groups, by.value));
const box = ref<HTMLElement>();
const { height } = useElementSize(box);
const list = ref<{ scrollToNode(key: string, where: string): void }>();
watch(
  () => props.chosen,
  async (ids) => {
    await nextTick();
    if (ids.size === 1) list.value?.scrollToNode([...ids][0]!, 'smart');
  },
);
const clashesOf = ({ clash, children = [] }: ClashNode): Clash[] => (clash ? [clash] : children.flatMap(clashesOf));
const isChosen = (node: ClashNode): boolean => {
  const own = clashesOf(node);
  return own.length === props.chosen.size && own.every(({ id }) => props.chosen.has(id));
};
/** One branch opens by itself where it is alone. */
const open = computed(() => (tree.value.length <= 3 ? tree.value.map(({ key }) => key) : []));
</script>

<template>
  <div class="list">
    <div class="piles" role="group" aria-label="States of clashes">
      <button
        v-for="pile in CLASH_PILES"
        :key="pile"
        :aria-pressed="piles.includes(pile)"
        :disabled="!counts[pile]"
        @click="toggle(pile)"
      >
        <span :style="{ color: PILE_LOOK[pile].colour }">{{ PILE_LOOK[pile].sign }}</span> {{ counts[pile] }}
        {{ PILE_LOOK[pile].said }}
      </button>
    </div>
    <div class="row find">
      <el-input v-model="words" size="small" placeholder="Name, class, storey" clearable aria-label="Search clashes" />
      <label class="quiet"
        >by
        <select v-model="by" aria-label="Clashes by">
          <option v-for="one in CLASH_TREES" :key="one" :value="one">{{ one }}</option>
        </select></label
      >
    </div>
    <div ref="box" class="tree">
      <el-tree-v2
        ref="list"
        :data="tree"
        :props="{ value: 'key', label: 'label', children: 'children' }"
        :height="height"
        :item-size="26"
        :indent="8"
        :default-expanded-keys="open"
        @node-click="(node: unknown) => emit('choose', clashesOf(node as ClashNode))"
      >
        <template #default="{ data: node }">
          <span class="node" :class="{ on: isChosen(node), branch: !node.clash }" :title="node.label">
            <span v-if="node.clash" class="sign-of" :style="{ color: PILE_LOOK[pileOf(node.clash)].colour }">{{
              PILE_LOOK[pileOf(node.clash)].sign
            }}</span>
            <span class="label">{{ node.label }}</span>
            <span v-if="!node.clash" class="mono quiet">{{ node.count }}</span>
          </span>
        </template>
      </el-tree-v2>
    </div>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.piles {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 8px 12px;
}
.piles button {
  min-height: 26px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  color: var(--graphite);
  font: inherit;
  cursor: pointer;
}
.piles button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--sheet);
  color: var(--ink);
}
.piles button:disabled {
  opacity: 0.55;
  cursor: default;
}
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
.node {
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  min-width: 0;
  padding-right: 12px;
  font-size: 12px;
}
.node.branch {
  font-weight: 600;
}
.node.on {
  color: var(--action);
  font-weight: 600;
}
.sign-of {
  width: 12px;
  font-weight: 700;
  text-align: center;
}
.label {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
