<script setup lang="ts">
/** What can be done with the markups that are chosen, together. */
import type { Edge } from '@kindred/core/markup/arrange';

defineProps<{ several: boolean; locked: boolean; grouped: boolean }>();
const emit = defineEmits<{
  align: [Edge];
  spread: [axis: 0 | 1];
  turn: [];
  order: ['front' | 'back'];
  group: [together: boolean];
  lock: [locked: boolean];
}>();
const EDGE_WORDS: Record<Edge, string> = {
  left: 'In line at the left',
  centre: 'Centred, one below the other',
  right: 'In line at the right',
  top: 'In line at the top',
  middle: 'Centred, side by side',
  bottom: 'In line at the bottom',
};
</script>

<template>
  <el-dropdown trigger="click" placement="top-start">
    <button class="arrange">Arrange</button>
    <template #dropdown>
      <el-dropdown-menu>
        <template v-if="several">
          <el-dropdown-item v-for="(word, edge) in EDGE_WORDS" :key="edge" @click="emit('align', edge)">{{
            word
          }}</el-dropdown-item>
          <el-dropdown-item divided @click="emit('spread', 0)">Evenly apart, side by side</el-dropdown-item>
          <el-dropdown-item @click="emit('spread', 1)">Evenly apart, one below the other</el-dropdown-item>
          <el-dropdown-item divided @click="emit('group', !grouped)">{{
            grouped ? 'Let the group go' : 'Hold together as a group'
          }}</el-dropdown-item>
        </template>
        <el-dropdown-item :divided="several" @click="emit('turn')">Turn by a quarter</el-dropdown-item>
        <el-dropdown-item @click="emit('order', 'front')">Over all others</el-dropdown-item>
        <el-dropdown-item @click="emit('order', 'back')">Under all others</el-dropdown-item>
        <el-dropdown-item divided @click="emit('lock', !locked)">{{
          locked ? 'Let it be moved again' : 'Keep it where it is'
        }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.arrange {
  font: inherit;
}
</style>
