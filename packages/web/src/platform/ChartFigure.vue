<script setup lang="ts">
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { onBeforeUnmount, useTemplateRef, watch } from 'vue';

Chart.defaults.font.family = 'Archivo Variable';
Chart.defaults.font.size = 11;
Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);

/** A chart with its numbers as a table for those who do not see it. */
const props = defineProps<{
  kind: 'bar' | 'line';
  labels: string[];
  series: { label: string; colour: string; values: number[] }[];
  unit: string;
  stacked?: boolean;
}>();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
let chart: Chart | undefined;
watch(
  [canvas, () => props.labels, () => props.series],
  ([target]) => {
    chart?.destroy();
    if (!target) return;
    chart = new Chart(target, {
      type: props.kind,
      data: {
        labels: props.labels,
        datasets: props.series.map(({ label, colour, values }) => ({
          label,
          data: values,
          backgroundColor: colour,
          borderColor: colour,
          borderWidth: props.kind === 'line' ? 2 : 0,
          pointRadius: 2,
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: {
          legend: { display: props.series.length > 1, position: 'bottom', labels: { boxWidth: 10, boxHeight: 10 } },
          tooltip: {
            callbacks: { label: ({ dataset, formattedValue }) => `${dataset.label}: ${formattedValue} ${props.unit}` },
          },
        },
        scales: {
          x: { stacked: props.stacked ?? false, grid: { display: false }, ticks: { maxRotation: 0 } },
          y: {
            stacked: props.stacked ?? false,
            beginAtZero: true,
            ticks: { precision: 0, maxTicksLimit: 5, callback: (value) => `${value}${props.unit === '%' ? ' %' : ''}` },
          },
        },
      },
    });
  },
  { flush: 'post' },
);
onBeforeUnmount(() => chart?.destroy());
</script>

<template>
  <figure>
    <canvas ref="canvas" aria-hidden="true" />
    <table class="for-readers">
      <tr>
        <th></th>
        <th v-for="label in labels" :key="label">{{ label }}</th>
      </tr>
      <tr v-for="one in series" :key="one.label">
        <th>{{ one.label }}</th>
        <td v-for="(value, i) in one.values" :key="i">{{ value }} {{ unit }}</td>
      </tr>
    </table>
  </figure>
</template>

<style scoped>
figure {
  margin: 6px 0 18px;
  height: 170px;
  position: relative;
}
.for-readers {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
}
</style>
