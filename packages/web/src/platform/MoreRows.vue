<script setup lang="ts">
/** Below a list that has more rows than were read so far. */
defineProps<{ hasMore: boolean }>();
const emit = defineEmits<{ more: [] }>();
</script>

<template>
  <p v-if="hasMore" class="more"><el-button size="small" @click="emit('more')">Show more</el-button></p>
</template>

<style scoped>
.more {
  margin: 10px 0 0;
}
</style>
