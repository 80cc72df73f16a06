<script setup lang="ts">
/** Clashes in rows, to read through and to take out. */
import type { Clash } from '@kindred/contract/clash/clashes';
import { computed, ref, watch } from 'vue';
import { PILE_LOOK, pileOf, sayClash } from './words.ts';

const props = defineProps<{ clashes: readonly Clash[]; chosen: string | undefined }>();
const emit = defineEmits<{ choose: [id: string]; save: [] }>();
const AT_ONCE = 200;
const count = ref(AT_ONCE);
watch(
  () => props.clashes,
  () => (count.value = AT_ONCE),
);
const rows = computed(() => props.clashes.slice(0, count.value));
const nameOf = ({ name, class: of }: Clash['a']): string => name || of;
</script>

<template>
  <div class="table">
    <table class="plain-table">
      <thead>
        <tr>
          <th class="right">No.</th>
          <th>State</th>
          <th>One</th>
          <th>Other</th>
          <th>How</th>
          <th>Storey</th>
          <th>Responsible</th>
          <th>Issue</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="clash in rows"
          :key="clash.id"
          class="clickable"
          tabindex="0"
          :class="{ chosen: clash.id === chosen }"
          @click="emit('choose', clash.id)"
          @keydown.enter="emit('choose', clash.id)"
        >
          <td class="right mono">{{ clash.number }}</td>
          <td>
            <b :style="{ color: PILE_LOOK[pileOf(clash)].colour }">{{ PILE_LOOK[pileOf(clash)].sign }}</b>
            {{ PILE_LOOK[pileOf(clash)].said }}
          </td>
          <td>{{ nameOf(clash.a) }}</td>
          <td>{{ nameOf(clash.b) }}</td>
          <td>{{ sayClash(clash) }}</td>
          <td>{{ clash.a.storey || clash.b.storey }}</td>
          <td>{{ clash.assignee?.name ?? '' }}</td>
          <td>{{ clash.issue ? `${clash.issue.number}, ${clash.issue.status}` : '' }}</td>
        </tr>
      </tbody>
    </table>
    <p class="row">
      <el-button v-if="rows.length < clashes.length" size="small" @click="count += AT_ONCE"
        >Show {{ Math.min(AT_ONCE, clashes.length - rows.length) }} more of {{ clashes.length }}</el-button
      >
      <button v-if="clashes.length" class="button-link" @click="emit('save')">Save as CSV</button>
    </p>
  </div>
</template>

<style scoped>
.table {
  overflow: auto;
  padding: 0 12px 12px;
}
.chosen td {
  background: var(--wash);
}
.row {
  gap: 14px;
}
</style>
