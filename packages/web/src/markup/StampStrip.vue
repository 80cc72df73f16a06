<script setup lang="ts">
/** The stamps of the catalogue that one may place, and one with words of one's own. */
import type { Stamp } from '@kindred/contract/markup/stamps';

defineProps<{ stamps: readonly Stamp[]; pictureOf: (stamp: Stamp) => string }>();
const chosen = defineModel<string>({ required: true });
</script>

<template>
  <div class="stamps" role="group" aria-label="Stamps">
    <button :class="{ active: chosen === '' }" :aria-pressed="chosen === ''" @click="chosen = ''">own words</button>
    <button
      v-for="stamp in stamps"
      :key="stamp.id"
      :class="{ active: chosen === stamp.id }"
      :aria-pressed="chosen === stamp.id"
      :style="{ color: stamp.colour }"
      :title="stamp.text"
      @click="chosen = stamp.id"
    >
      <img v-if="stamp.picture" :src="pictureOf(stamp)" alt="" /> {{ stamp.name }}
    </button>
  </div>
</template>

<style scoped>
.stamps {
  display: flex;
  gap: 6px;
  padding: 4px 12px;
  border-top: 1px solid var(--hairline);
  overflow-x: auto;
  white-space: nowrap;
}
button {
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 3px 8px;
  border: 1px solid currentcolor;
  border-radius: 3px;
  background: var(--sheet);
  font: inherit;
  font-size: 12px;
  font-weight: 600;
  cursor: pointer;
}
button.active {
  background: var(--action-wash);
  outline: 2px solid var(--action);
}
img {
  height: 18px;
}
</style>
