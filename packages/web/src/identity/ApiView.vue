<script setup lang="ts">
import { operations } from '@kindred/contract/api';
import { computed, ref } from 'vue';

const words = ref('');
const groups = computed(() => {
  const wanted = words.value.toLowerCase();
  const shown = operations.filter(({ operation }) =>
    `${operation.id} ${operation.path} ${operation.summary}`.toLowerCase().includes(wanted),
  );
  return [...new Set(shown.map(({ capability }) => capability))].map((capability) => ({
    capability,
    operations: shown.filter((item) => item.capability === capability).map(({ operation }) => operation),
  }));
});
const access = (value: unknown): string =>
  typeof value === 'string' ? value : `${(value as { kind: string }).kind}: ${(value as { action: string }).action}`;
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>API</h1>
      <span class="quiet"
        >Everything the application does, programs can do. The whole description for machines:
        <a href="/api/openapi.json" style="text-decoration: underline">OpenAPI 3.1</a>. Sign in with a personal token:
        <code class="mono">Authorization: Bearer …</code></span
      >
      <span class="spread" />
      <el-input v-model="words" placeholder="Find" aria-label="Find" style="width: 200px" />
    </div>
    <section v-for="group in groups" :key="group.capability" style="margin-bottom: 18px">
      <h2>{{ group.capability }}</h2>
      <table class="plain-table">
        <tbody>
          <tr v-for="operation in group.operations" :key="operation.id">
            <td class="mono" style="width: 60px">{{ operation.method.toUpperCase() }}</td>
            <td class="mono" style="width: 44%">/api{{ operation.path }}</td>
            <td>{{ operation.summary }}</td>
            <td class="quiet" style="width: 150px">{{ access(operation.access) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
