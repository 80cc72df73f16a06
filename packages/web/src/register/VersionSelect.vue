<script setup lang="ts">
/** One of the versions of a container, by its number. */
defineProps<{
  version: number;
  versions: readonly { id: string; number: number; revision: string }[];
  label: string;
}>();
const emit = defineEmits<{ version: [number] }>();
</script>

<template>
  <el-select
    :model-value="version || undefined"
    size="small"
    style="width: 150px"
    :aria-label="label"
    @update:model-value="emit('version', $event)"
  >
    <el-option
      v-for="one in versions"
      :key="one.id"
      :value="one.number"
      :label="`Version ${one.number} · ${one.revision}`"
    />
  </el-select>
</template>
