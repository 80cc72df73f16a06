<script setup lang="ts">
/** Whether the sheet is linked with a model, and what can be done about it. */
import type { PlanLink } from '@kindred/contract/plan/plan-links';

defineProps<{ link: PlanLink | undefined; mayLink: boolean }>();
const emit = defineEmits<{ link: []; unlink: [] }>();
</script>

<template>
  <el-dropdown v-if="link || mayLink" trigger="click">
    <button class="button-link">{{ link ? link.storey : 'Model' }}</button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-if="link" disabled
          >Lies in the model, {{ Math.round(link.error * 1000) }} mm off; linked by
          {{ link.madeBy.name }}</el-dropdown-item
        >
        <el-dropdown-item v-if="mayLink" @click="emit('link')">{{
          link ? 'Link anew …' : 'Link with a model …'
        }}</el-dropdown-item>
        <el-dropdown-item v-if="link && mayLink" @click="emit('unlink')">Take the link away</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
