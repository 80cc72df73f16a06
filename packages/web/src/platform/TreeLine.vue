<script setup lang="ts">
/** A line of such a tree: a branch with how many it has, or a leaf with its sign. */
defineProps<{ label: string; on: boolean; count?: number; sign?: string; colour?: string }>();
</script>

<template>
  <span
    class="line"
    :class="{ on, branch: count !== undefined }"
    :title="label"
    :aria-current="on ? 'true' : undefined"
  >
    <b v-if="sign" :style="{ color: colour }">{{ sign }}</b>
    <span class="label">{{ label }}</span>
    <span v-if="count !== undefined" class="mono quiet">{{ count }}</span>
    <slot />
  </span>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  gap: 6px;
  width: 100%;
  min-width: 0;
  padding-right: 12px;
  font-size: 12px;
}
.branch {
  font-weight: 600;
}
.on {
  color: var(--action);
  font-weight: 600;
}
.label {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
b {
  width: 12px;
  text-align: center;
}
</style>
