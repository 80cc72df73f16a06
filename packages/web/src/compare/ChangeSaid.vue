<script setup lang="ts">
/** Of one change: whether it was asked for, and by which request. */
import type { Brief } from '@kindred/contract/compare/compare';
import { computed } from 'vue';

const props = defineProps<{
  said: Brief['changes'][number] | undefined;
  requests: Brief['requests'];
  maySay: boolean;
}>();
const emit = defineEmits<{ judge: [asked: boolean | null, requestIds: string[]] }>();
const asked = computed(() => props.said?.asked ?? false);
const ids = computed(() => props.said?.requestIds ?? []);
const numbers = computed(() => new Map(props.requests.map(({ id }, i) => [id, i + 1])));
/** Ticking it again takes it back. */
function tick(value: boolean): void {
  const back = props.said?.ticked && asked.value === value;
  emit('judge', back ? null : value, value && !back ? ids.value : []);
}
</script>

<template>
  <div class="said">
    <div class="row" role="group" aria-label="Was it asked for?">
      <button :aria-pressed="Boolean(said?.ticked) && asked" :disabled="!maySay" @click="tick(true)">
        <span aria-hidden="true">✓</span> Asked for
      </button>
      <button :aria-pressed="Boolean(said?.ticked) && !asked" :disabled="!maySay" @click="tick(false)">
        <span aria-hidden="true">✕</span> Not asked for
      </button>
    </div>
    <small v-if="said?.ticked" class="quiet">ticked by {{ said.by?.name }}</small>
    <small v-else-if="said" class="quiet">{{
      ids.length ? `perhaps request ${ids.map((id) => numbers.get(id)).join(', ')}` : 'no request is near'
    }}</small>
    <el-select
      v-if="maySay && requests.length && (asked || ids.length)"
      :model-value="[...ids]"
      multiple
      size="small"
      placeholder="by no request"
      aria-label="Requests that it answers"
      @update:model-value="emit('judge', true, $event)"
      ><el-option
        v-for="(request, i) in requests"
        :key="request.id"
        :value="request.id"
        :label="`${i + 1} ${request.text.slice(0, 60)}`"
    /></el-select>
  </div>
</template>

<style scoped>
.said {
  display: grid;
  gap: 6px;
}
.row {
  gap: 6px;
}
button {
  min-height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--ink);
  color: #fff;
}
</style>
