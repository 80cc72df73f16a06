<script setup lang="ts">
/** Changes of a model in a tree: by what happened, by storey or by class, with search over what they say. */
import { countChanges, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { MODEL_CHANGE_WORDS } from '@kindred/words/model-changes';
import { useElementSize } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
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
const box = ref<HTMLElement>();
const { height } = useElementSize(box);
/** A branch that is longer is opened by whoever wants to see it. */
const OPENED = 60;
const open = computed(() => tree.value.filter(({ count }) => count <= OPENED).map(({ key }) => key));
const list = ref<{ scrollToNode(key: string, where: string): void }>();
watch(
  () => props.chosen,
  async (number) => {
    await nextTick();
    if (number !== undefined) list.value?.scrollToNode(String(number), 'smart');
  },
);
function choose(node: unknown): void {
  const { change } = node as ChangeNode;
  if (change) emit('choose', change.number);
}
</script>

<template>
  <div class="list">
    <ChangeKinds v-model="kinds" :counts="countChanges(all)" :colours="colours" :words="MODEL_CHANGE_WORDS" />
    <div class="row find">
      <el-input v-model="words" size="small" placeholder="Name, class, value" clearable aria-label="Search changes" />
      <label class="quiet"
        >by
        <select v-model="by" aria-label="Changes by">
          <option v-for="one in CHANGE_TREES" :key="one" :value="one">{{ one }}</option>
        </select></label
      >
    </div>
    <p v-if="shown.length < all.length" class="quiet left">{{ shown.length }} of {{ all.length }}</p>
    <div ref="box" class="tree">
      <el-tree-v2
        ref="list"
        :data="tree"
        :props="{ value: 'key', label: 'label', children: 'children' }"
        :height="height"
        :item-size="26"
        :indent="10"
        :default-expanded-keys="open"
        @node-click="choose"
      >
        <template #default="{ data: node }">
          <span
            v-if="node.change"
            class="node"
            :class="{ on: node.change.number === chosen }"
            :aria-current="node.change.number === chosen ? 'true' : undefined"
          >
            <span class="kind-sign" :style="{ color: colours[node.change.kind as ChangeKind] }">{{
              CHANGE_LOOK[node.change.kind as ChangeKind].sign
            }}</span>
            <span class="label" :title="node.label">{{ node.label }}</span>
            <small v-if="said.get(node.change.number)" :class="{ not: !said.get(node.change.number)!.asked }"
              >{{ said.get(node.change.number)!.asked ? 'asked for' : 'not asked for'
              }}{{ said.get(node.change.number)!.ticked ? '' : '?' }}</small
            >
          </span>
          <span v-else class="node branch"
            ><span class="label">{{ node.label }}</span
            ><span class="mono quiet">{{ node.count }}</span></span
          >
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
.left {
  margin: 0;
  padding: 0 12px;
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
  gap: 6px;
  width: 100%;
  min-width: 0;
  padding-right: 12px;
  font-size: 12px;
}
.node.on {
  font-weight: 600;
  color: var(--action);
}
.branch {
  font-weight: 600;
}
.label {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.kind-sign {
  width: 12px;
  font-weight: 700;
  text-align: center;
}
small {
  color: var(--graphite);
}
small.not {
  color: var(--needs-you);
  font-weight: 600;
}
</style>
