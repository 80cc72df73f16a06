<script setup lang="ts">
/** A page, small. */
import { onBeforeUnmount, ref, watch } from 'vue';
import type { SheetSource } from './sources.ts';
import type { Size } from './view.ts';

const props = defineProps<{
  source: SheetSource;
  page: number;
  /** Of the page, points. */
  size: Size;
  /** Pixels of its longer side. */
  side: number;
}>();
const canvas = ref<HTMLCanvasElement>();
let running: AbortController | undefined;
watch(
  () => [props.source, props.page, canvas.value] as const,
  async ([source, page, target]) => {
    running?.abort();
    if (!target) return;
    const { signal } = (running = new AbortController());
    const zoom = props.side / Math.max(...props.size);
    const small: Size = [props.size[0] * zoom, props.size[1] * zoom];
    const picture = await source.draw(page, { x: 0, y: 0, zoom, turn: 0 }, small, 2, signal);
    if (!picture || signal.aborted) return picture?.close();
    target.width = picture.width;
    target.height = picture.height;
    target.getContext('2d')!.drawImage(picture, 0, 0);
    picture.close();
  },
  { immediate: true },
);
onBeforeUnmount(() => running?.abort());
</script>

<template>
  <canvas ref="canvas" />
</template>
