<script setup lang="ts">
/** Walls of a model over a sheet, where a link would put them. */
import type { PlanMap } from '@kindred/core/plan/plan-map';
import type { PlacedElement } from '@kindred/core/plan/storey-plan';
import { computed } from 'vue';
import { matrixOf, type SheetView } from '../drawing/table/view.ts';
import { isWall, outlineOnPage } from './outline.ts';

const props = defineProps<{ elements: readonly PlacedElement[]; map: PlanMap; view: SheetView }>();
const path = computed(() => outlineOnPage(props.elements.filter(isWall), props.map));
</script>

<template>
  <svg class="overlay" aria-hidden="true">
    <path :d="path" :transform="`matrix(${matrixOf(view).join(' ')})`" />
  </svg>
</template>

<style scoped>
.overlay {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
path {
  fill: rgb(180 80 45 / 18%);
  stroke: var(--needs-you);
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
</style>
