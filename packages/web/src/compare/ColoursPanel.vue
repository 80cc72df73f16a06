<script setup lang="ts">
/** The colours of changes, as each person likes them; sign and dash stay. */
import type { ChangeKind } from '@kindred/core/compare/change-counts';
import { useChangeColours } from './change-colours.ts';
import { CHANGE_LOOK } from './change-look.ts';

const { colours, choose, forget } = useChangeColours();
const kinds = Object.keys(CHANGE_LOOK) as ChangeKind[];
</script>

<template>
  <el-popover trigger="click" :width="220">
    <template #reference><button class="button-link">Colours</button></template>
    <label v-for="kind in kinds" :key="kind" class="colour">
      <input type="color" :value="colours[kind]" @change="choose(kind, ($event.target as HTMLInputElement).value)" />
      <span aria-hidden="true">{{ CHANGE_LOOK[kind].sign }}</span> {{ CHANGE_LOOK[kind].word }}
    </label>
    <button class="button-link" @click="forget">As they were</button>
  </el-popover>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 40px 18px 1fr;
  align-items: center;
  gap: 6px;
  min-height: 32px;
}
input {
  width: 36px;
  height: 24px;
  padding: 0;
  border: 1px solid var(--hairline);
}
</style>
