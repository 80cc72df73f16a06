<script setup lang="ts">
/** Clashes in a tree, those of one cause together. */
import type { Clash, ClashGroup } from '@kindred/contract/clash/clashes';
import { computed } from 'vue';
import ChoiceChips from '../platform/ChoiceChips.vue';
import FoundTree from '../platform/FoundTree.vue';
import TreeLine from '../platform/TreeLine.vue';
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

const chips = computed(() => {
  const counts = countPiles(props.all);
  return CLASH_PILES.map((key) => ({
    ...{ key, sign: PILE_LOOK[key].sign, colour: PILE_LOOK[key].colour, word: PILE_LOOK[key].said },
    count: counts[key],
  }));
});
const tree = computed(() => clashTree(props.shown, props.groups, by.value));
/** A few branches open by themselves. */
const open = computed(() => (tree.value.length <= 3 ? tree.value.map(({ key }) => key) : []));
const only = computed(() => (props.chosen.size === 1 ? [...props.chosen][0] : undefined));
const clashesOf = ({ clash, children = [] }: ClashNode): Clash[] => (clash ? [clash] : children.flatMap(clashesOf));
const isChosen = (node: ClashNode): boolean =>
  node.count === props.chosen.size && clashesOf(node).every(({ id }) => props.chosen.has(id));
</script>

<template>
  <div class="list">
    <ChoiceChips v-model="piles" label="States of clashes" :chips="chips" />
    <FoundTree
      v-model:words="words"
      v-model:by="by"
      :tree="tree"
      things="clashes"
      :orders="CLASH_TREES"
      placeholder="Name, class, storey"
      :open="open"
      :chosen="only"
      @choose="emit('choose', clashesOf($event))"
    >
      <template #default="{ node }">
        <TreeLine
          v-if="node.clash"
          :label="node.label"
          :on="isChosen(node)"
          :sign="PILE_LOOK[pileOf(node.clash)].sign"
          :colour="PILE_LOOK[pileOf(node.clash)].colour"
        />
        <TreeLine v-else :label="node.label" :on="isChosen(node)" :count="node.count" />
      </template>
    </FoundTree>
  </div>
</template>

<style scoped>
.list {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
</style>
