<script setup lang="ts">
/** How many clashes there are between whom. */
import type { Clash } from '@kindred/contract/clash/clashes';
import { computed } from 'vue';
import { clashMatrix } from './clash-tree.ts';

const props = defineProps<{ clashes: readonly Clash[]; sideOf: (element: Clash['a']) => string }>();
const emit = defineEmits<{ choose: [a: string, b: string] }>();
const matrix = computed(() => clashMatrix(props.clashes, props.sideOf));
const most = computed(() =>
  Math.max(1, ...matrix.value.sides.flatMap((a) => matrix.value.sides.map((b) => matrix.value.count(a, b)))),
);
const shade = (count: number): string =>
  count ? `color-mix(in srgb, var(--action) ${12 + Math.round((count / most.value) * 48)}%, var(--paper))` : 'none';
</script>

<template>
  <p v-if="!clashes.length" class="quiet">Nothing to count: no clash is shown.</p>
  <table v-else>
    <thead>
      <tr>
        <td></td>
        <th v-for="side in matrix.sides" :key="side" scope="col">{{ side }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(a, i) in matrix.sides" :key="a">
        <th scope="row">{{ a }}</th>
        <td
          v-for="(b, k) in matrix.sides"
          :key="b"
          :style="{ background: k <= i ? shade(matrix.count(a, b)) : 'none' }"
        >
          <button
            v-if="k <= i && matrix.count(a, b)"
            :aria-label="`${matrix.count(a, b)} between ${a} and ${b}`"
            @click="emit('choose', a, b)"
          >
            {{ matrix.count(a, b) }}
          </button>
          <span v-else-if="k <= i" class="quiet">·</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  margin: 16px;
}
th {
  padding: 6px 12px;
  font-weight: 600;
  text-align: left;
}
thead th {
  text-align: center;
}
td {
  min-width: 74px;
  height: 48px;
  text-align: center;
  border: 1px solid var(--hairline);
}
thead td {
  border: 0;
}
button {
  width: 100%;
  height: 100%;
  border: 0;
  background: none;
  font: inherit;
  font-size: 16px;
  font-variant-numeric: tabular-nums;
  color: var(--ink);
  cursor: pointer;
}
p {
  margin: 16px;
}
</style>
