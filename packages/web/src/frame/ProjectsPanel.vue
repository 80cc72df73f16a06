<script setup lang="ts">
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { ChevronDown } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const router = useRouter();
const project = useProject();
const { data: projects } = useQuery({ key: ['projects'], query: () => call(listProjects) });
</script>

<template>
  <el-dropdown trigger="click">
    <button class="switcher">
      <template v-if="project.view"
        ><span class="mono">{{ project.view.project.number }}</span> <b>{{ project.view.project.name }}</b></template
      >
      <b v-else>All projects</b>
      <ChevronDown :size="14" />
    </button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item
          v-for="item in projects"
          :key="item.id"
          @click="router.push({ name: 'register', params: { projectId: item.id } })"
        >
          <span class="mono" style="min-width: 48px">{{ item.number }}</span> {{ item.name }}
        </el-dropdown-item>
        <el-dropdown-item divided @click="router.push('/')">All projects</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.switcher {
  display: flex;
  align-items: center;
  gap: 8px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
  white-space: nowrap;
  min-width: 0;
  max-width: 100%;
}
.switcher b {
  overflow: hidden;
  text-overflow: ellipsis;
}
:deep(.el-dropdown),
.el-dropdown {
  min-width: 0;
}
</style>
