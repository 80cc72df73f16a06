<script setup lang="ts" generic="List extends string">
/** Chooses what is listed beside the picture. */
import { computed } from 'vue';

const props = defineProps<{ lists: Readonly<Record<List, string>>; list: List }>();
const entries = computed(() => Object.entries(props.lists) as [List, string][]);
const emit = defineEmits<{ list: [List] }>();
</script>

<template>
  <div v-arrow-keys="'button'" class="lists" role="tablist" aria-label="What is listed">
    <button
      v-for="[name, word] in entries"
      :key="name"
      role="tab"
      :aria-selected="list === name"
      :tabindex="list === name ? 0 : -1"
      @click="emit('list', name)"
    >
      {{ word }}
    </button>
  </div>
</template>

<style scoped>
.lists {
  display: flex;
  border-bottom: 1px solid var(--hairline);
}
.lists button {
  flex: 1;
  white-space: nowrap;
  min-height: 36px;
  border: 0;
  border-bottom: 2px solid transparent;
  background: none;
  font: inherit;
  color: var(--graphite);
  cursor: pointer;
}
.lists button[aria-selected='true'] {
  border-bottom-color: var(--ink);
  color: var(--ink);
  font-weight: 600;
}
</style>
