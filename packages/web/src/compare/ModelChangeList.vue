<script setup lang="ts">
/** Changes of a model in a tree: by what happened, by storey or by class, with search over what they say. */
import { countChanges, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { MODEL_CHANGE_WORDS } from '@kindred/words/model-changes';
import { computed } from 'vue';
import FoundTree from '../platform/FoundTree.vue';
import TreeLine from '../platform/TreeLine.vue';
import type { ChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';
import { CHANGE_TREES, changeTree, type ChangeNode, type ChangeTree } from './change-tree.ts';
import ChangeKinds from './ChangeKinds.vue';

const props = defineProps<{
  all: readonly ModelChange[];
  /** Those that are left by kinds and words. */
  shown: readonly ModelChange[];
  chosen: number | undefined;
  colours: ChangeColours;
  /** What is known of each against the brief. */
  said: ReadonlyMap<number, { asked: boolean; ticked: boolean }>;
}>();
const kinds = defineModel<ChangeKind[]>('kinds', { required: true });
const words = defineModel<string>('words', { required: true });
const by = defineModel<ChangeTree>('by', { required: true });
const emit = defineEmits<{ choose: [number: number] }>();

const tree = computed(() => changeTree(props.shown, by.value));
/** A branch that is longer is opened by whoever wants to see it. */
const OPENED = 60;
const open = computed(() => tree.value.filter(({ count }) => count <= OPENED).map(({ key }) => key));
const choose = ({ change }: ChangeNode): void => change && emit('choose', change.number);
function brief(number: number): { words: string; not: boolean } | undefined {
  const one = props.said.get(number);
  return one && { words: `${one.asked ? 'asked for' : 'not asked for'}${one.ticked ? '' : '?'}`, not: !one.asked };
}
</script>

<template>
  <div class="list">
    <ChangeKinds v-model="kinds" :counts="countChanges(all)" :colours="colours" :words="MODEL_CHANGE_WORDS" />
    <p v-if="shown.length < all.length" class="quiet left">{{ shown.length }} of {{ all.length }}</p>
    <FoundTree
      v-model:words="words"
      v-model:by="by"
      :tree="tree"
      things="changes"
      :orders="CHANGE_TREES"
      placeholder="Name, class, value"
      :open="open"
      :chosen="chosen === undefined ? undefined : String(chosen)"
      @choose="choose"
    >
      <template #default="{ node }">
        <TreeLine
          v-if="node.change"
          :label="node.label"
          :on="node.change.number === chosen"
          :sign="CHANGE_LOOK[node.change.kind].sign"
          :colour="colours[node.change.kind]"
          ><small v-if="brief(node.change.number)" :class="{ not: brief(node.change.number)!.not }">{{
            brief(node.change.number)!.words
          }}</small></TreeLine
        >
        <TreeLine v-else :label="node.label" :on="false" :count="node.count" />
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
.left {
  margin: 0;
  padding: 0 12px 4px;
  font-size: 12px;
}
small {
  color: var(--graphite);
}
small.not {
  color: var(--needs-you);
  font-weight: 600;
}
</style>
