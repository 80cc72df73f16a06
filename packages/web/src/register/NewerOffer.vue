<script setup lang="ts">
import { Layers2 } from '@lucide/vue';

/** Says that something newer is there, and takes it when the person wants it. */
defineProps<{ text: string }>();
const emit = defineEmits<{ take: [] }>();
</script>

<template>
  <div class="offer" role="status">
    <Layers2 :size="15" /> {{ text }}
    <el-button size="small" type="primary" @click="emit('take')">Show it</el-button>
    <slot />
  </div>
</template>

<style scoped>
.offer {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 6px 12px;
  background: var(--action-wash);
  border-bottom: 1px solid var(--hairline);
  font-size: 12px;
}
</style>
