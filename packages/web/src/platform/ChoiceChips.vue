<script setup lang="ts" generic="Key extends string">
/** Which kinds of things one sees: each with its sign, its colour and how many there are. */
defineProps<{
  label: string;
  chips: readonly { key: Key; sign: string; colour: string; word: string; count: number }[];
}>();
const chosen = defineModel<Key[]>({ required: true });
const toggle = (key: Key): void => {
  chosen.value = chosen.value.includes(key) ? chosen.value.filter((one) => one !== key) : [...chosen.value, key];
};
</script>

<template>
  <div class="chips" role="group" :aria-label="label">
    <button
      v-for="chip in chips"
      :key="chip.key"
      :aria-pressed="chosen.includes(chip.key)"
      :disabled="!chip.count"
      @click="toggle(chip.key)"
    >
      <b :style="{ color: chip.colour }">{{ chip.sign }}</b> {{ chip.count }} {{ chip.word }}
    </button>
  </div>
</template>

<style scoped>
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding: 8px 12px;
}
button {
  min-height: 26px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  color: var(--graphite);
  font: inherit;
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--sheet);
  color: var(--ink);
}
button:disabled {
  opacity: 0.55;
  cursor: default;
}
</style>
