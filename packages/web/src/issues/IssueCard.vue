<script setup lang="ts">
/** An issue as a card of a board. */
import type { Issue } from '@kindred/contract/issues/issues';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { computed } from 'vue';
import { day, isOverdue } from '../platform/time.ts';
import ResponsibleBadge from './ResponsibleBadge.vue';

const props = defineProps<{ issue: Issue; bars: string; blocks: boolean }>();
const late = computed(() => isOverdue(props.issue.dueOn) && PENDING_ISSUE_STATUSES.includes(props.issue.status));
</script>

<template>
  <article class="card" :class="{ blocks }">
    <p class="top">
      <span class="mono quiet">{{ issue.number }}</span>
      <span class="quiet">{{ issue.type }}</span>
      <span class="spread" />
      <span class="mono" :title="issue.priority">{{ bars }}</span>
    </p>
    <b>{{ issue.title }}</b>
    <p class="foot">
      <ResponsibleBadge :responsible="issue.responsible" />
      <span class="spread" />
      <span v-if="issue.dueOn" :class="late ? 'sign needs-you' : 'quiet'">{{ day(issue.dueOn) }}</span>
    </p>
  </article>
</template>

<style scoped>
.card {
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--sheet);
  padding: 7px 10px;
  overflow-wrap: anywhere;
  content-visibility: auto;
  contain-intrinsic-height: 84px;
}
.card.blocks {
  border-left: 3px solid var(--needs-you);
}
p {
  display: flex;
  gap: 8px;
  margin: 0;
  font-size: 12px;
}
.foot {
  margin-top: 5px;
  align-items: center;
}
</style>
