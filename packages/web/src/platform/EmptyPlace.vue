<script setup lang="ts">
defineProps<{ title: string }>();
</script>

<template>
  <div class="empty">
    <h2>{{ title }}</h2>
    <p style="margin-top: 6px"><slot /></p>
    <slot name="step" />
  </div>
</template>
