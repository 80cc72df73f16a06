<script setup lang="ts">
/** The day when something is due: chosen, or so many working days from today. */
import { addWorkingDays, workingDaysBetween } from '@kindred/core/platform/working-days';
import dayjs from 'dayjs';
import { computed } from 'vue';

const props = defineProps<{ holidays: readonly string[]; disabled?: boolean }>();
const due = defineModel<string | null>({ required: true });
const off = computed(() => new Set(props.holidays));
const today = dayjs().format('YYYY-MM-DD');
const left = computed(() => (due.value ? workingDaysBetween(today, due.value, off.value) : 0));
const OFFERED = [2, 5, 10];
</script>

<template>
  <el-date-picker
    :model-value="due ?? undefined"
    value-format="YYYY-MM-DD"
    format="D MMM YYYY"
    :disabled="disabled"
    style="width: 100%"
    aria-label="Due"
    @update:model-value="due = $event ?? null"
  />
  <small class="days quiet">
    <template v-if="due">{{
      left < 0 ? `${-left} working days ago` : left === 1 ? 'in 1 working day' : `in ${left} working days`
    }}</template>
    <template v-else-if="!disabled"
      >Working days:
      <button
        v-for="days in OFFERED"
        :key="days"
        type="button"
        class="button-link"
        :aria-label="`In ${days} working days`"
        @click.prevent="due = addWorkingDays(today, days, off)"
      >
        {{ days }}
      </button></template
    >
  </small>
</template>

<style scoped>
.days {
  display: flex;
  gap: 8px;
  min-height: 18px;
}
</style>
