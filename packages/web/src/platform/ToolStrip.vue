<script setup lang="ts">
/** The tools of a surface, in one strip at its edge. */
defineProps<{ label: string }>();
</script>

<template>
  <div v-arrow-keys="'button'" class="tool-strip" role="toolbar" :aria-label="label"><slot /></div>
</template>
