<script setup lang="ts">
/** Issues over the scene, where they were raised. */
import type { ScenePin } from './scene-pins.ts';

defineProps<{
  pins: readonly ScenePin[];
  /** Pixels from the upper left corner; undefined where it is behind the camera. */
  toScreen: (at: ScenePin['at']) => readonly [number, number] | undefined;
  /** Grows with each picture that is drawn: places are looked up anew. */
  drawn: number;
}>();
const emit = defineEmits<{ open: [id: string] }>();
</script>

<template>
  <div class="pins" :data-drawn="drawn">
    <template v-for="pin in pins" :key="pin.id">
      <button
        v-if="toScreen(pin.at)"
        class="pin mono"
        :style="{ transform: `translate(${toScreen(pin.at)![0]}px, ${toScreen(pin.at)![1]}px) translate(-50%, -100%)` }"
        :title="`Issue ${pin.number}, raised on a plan`"
        @click="emit('open', pin.id)"
      >
        {{ pin.number }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.pins {
  position: absolute;
  inset: 0;
  overflow: hidden;
  pointer-events: none;
}
.pin {
  position: absolute;
  top: 0;
  left: 0;
  min-width: 30px;
  height: 24px;
  padding: 0 6px;
  border: 0;
  border-radius: 2px;
  background: #6b3f69;
  color: #fff;
  font-size: 11px;
  pointer-events: auto;
  cursor: pointer;
}
</style>
