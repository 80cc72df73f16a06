<script setup lang="ts">
/** One issue as a line of a table. */
import type { Issue } from '@kindred/contract/issues/issues';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import PersonBadge from '../platform/PersonBadge.vue';
import { day, isOverdue } from '../platform/time.ts';
import ResponsibleBadge from './ResponsibleBadge.vue';
import { ISSUE_SIGNS } from './signs.ts';

defineProps<{ issue: Issue; chosen: boolean; bars: string; blocks: boolean; said: string }>();
const emit = defineEmits<{ open: []; toggle: []; point: [] }>();
const late = ({ dueOn, status }: Issue): boolean => isOverdue(dueOn) && PENDING_ISSUE_STATUSES.includes(status);
</script>

<template>
  <tr
    class="clickable"
    tabindex="-1"
    :aria-selected="chosen"
    @click="emit('open')"
    @keydown.enter.self="emit('open')"
    @keydown.space.self.prevent="emit('toggle')"
    @mouseenter="emit('point')"
    @focus="emit('point')"
  >
    <td class="tick" @click.stop>
      <input type="checkbox" :checked="chosen" :aria-label="`Choose issue ${issue.number}`" @change="emit('toggle')" />
    </td>
    <td class="mono right">{{ issue.number }}</td>
    <td>
      <b>{{ issue.title }}</b><span v-if="issue.comments" class="quiet">
        · {{ issue.comments }} {{ issue.comments === 1 ? 'comment' : 'comments' }}</span
      >
      <span v-for="label in issue.labels" :key="label" class="label">{{ label }}</span>
    </td>
    <td>{{ issue.type }}</td>
    <td>
      <span class="mono" :class="{ blocking: blocks }" :title="issue.priority">{{ bars }}</span>
      <span class="said-only">{{ issue.priority }}</span>
    </td>
    <td>
      <span :class="ISSUE_SIGNS[issue.status]">{{ issue.status }}</span>
    </td>
    <td><ResponsibleBadge :responsible="issue.responsible" /></td>
    <td class="day">
      <span v-if="issue.dueOn" :class="late(issue) ? 'sign needs-you' : ''">{{ day(issue.dueOn) }}</span>
    </td>
    <td class="wide-only"><PersonBadge :person="issue.author" /></td>
    <td class="mono quiet">{{ said }}</td>
  </tr>
</template>

<style scoped>
.blocking {
  color: var(--needs-you);
}
.day {
  white-space: nowrap;
}
.tick {
  width: 28px;
}
.label {
  margin-left: 6px;
  padding: 0 5px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  font-size: 11px;
  color: var(--graphite);
}
@media (max-width: 900px) {
  .wide-only {
    display: none;
  }
}
</style>
