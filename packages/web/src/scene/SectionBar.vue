<script setup lang="ts">
import { useLength } from '../platform/length.ts';
import type { Section } from './scene-engine.ts';

/** Where the section stands, along its axis. */
defineProps<{ range: [number, number] }>();
const section = defineModel<Section | null>({ required: true });
const length = useLength();
const change = (part: Partial<Section>): void => void (section.value = { ...section.value!, ...part });
</script>

<template>
  <div v-if="section" class="cutter">
    <b>Section {{ section.axis.toUpperCase() }}</b>
    <el-slider
      :model-value="section.at"
      :min="range[0]"
      :max="range[1]"
      :step="0.05"
      :show-tooltip="false"
      aria-label="Position of the section"
      @update:model-value="change({ at: Number($event) })"
    />
    <span class="mono">{{ length(section.at) }}</span>
    <button class="button-link" @click="change({ flipped: !section.flipped })">Other side</button>
    <button class="button-link" @click="section = null">Remove</button>
  </div>
</template>

<style scoped>
.cutter {
  position: absolute;
  left: 14px;
  right: 14px;
  top: 12px;
  width: fit-content;
  max-width: calc(100% - 28px);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 14px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  padding: 2px 14px;
}
.el-slider {
  width: 220px;
}
</style>
