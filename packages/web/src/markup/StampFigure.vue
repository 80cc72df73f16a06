<script setup lang="ts">
/** A stamp as it stands on a sheet. */
import { figureOf, LINE_HEIGHT } from '@kindred/core/markup/figures';
import type { Box } from '@kindred/core/markup/shapes';
import { computed } from 'vue';

const props = defineProps<{ colour: string; text: string; width: number; height: number; picture: string }>();
const box = computed((): Box => [1, 1, props.width, props.height]);
const words = computed(() => figureOf({ kind: 'stamp', box: box.value }, props.picture ? '' : props.text).words);
</script>

<template>
  <svg :viewBox="`0 0 ${width + 2} ${height + 2}`" class="stamp" role="img" :aria-label="text || 'Picture'">
    <rect x="1" y="1" :width="width" :height="height" :stroke="colour" :fill="`${colour}12`" stroke-width="1.6" />
    <image v-if="picture" :href="picture" x="1" y="1" :width="width" :height="height" />
    <text v-if="words" :font-size="words.size" :fill="colour">
      <tspan v-for="(line, i) in words.lines" :key="i" :x="words.at[0]" :y="words.at[1] + i * words.size * LINE_HEIGHT">
        {{ line }}
      </tspan>
    </text>
  </svg>
</template>

<style scoped>
.stamp {
  max-width: 100%;
  max-height: 120px;
  font-family: inherit;
}
</style>
