<script setup lang="ts">
/** Which kinds of changes one sees, and how many of each there are. */
import { CHANGE_KINDS, type ChangeCounts, type ChangeKind } from '@kindred/core/compare/change-counts';
import { computed } from 'vue';
import ChoiceChips from '../platform/ChoiceChips.vue';
import type { ChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';

const props = defineProps<{
  counts: ChangeCounts;
  colours: ChangeColours;
  /** What kinds are called, where not as on drawings. */
  words?: Record<ChangeKind, string>;
}>();
const kinds = defineModel<ChangeKind[]>({ required: true });
const chips = computed(() =>
  CHANGE_KINDS.map((key) => ({
    ...{ key, sign: CHANGE_LOOK[key].sign, colour: props.colours[key], count: props.counts[key] },
    word: props.words?.[key] ?? CHANGE_LOOK[key].word,
  })),
);
</script>

<template>
  <ChoiceChips v-model="kinds" label="Kinds of changes" :chips="chips" />
</template>
