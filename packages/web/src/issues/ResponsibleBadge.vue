<script setup lang="ts">
import type { Responsible } from '@kindred/contract/issues/issues';
import PersonBadge from '../platform/PersonBadge.vue';

defineProps<{ responsible: Responsible | null; named?: boolean }>();
</script>

<template>
  <span v-if="!responsible" class="quiet">nobody</span>
  <PersonBadge v-else-if="responsible.person" :person="responsible.person" :named="named" />
  <span v-else :title="responsible.kind === 'team' ? 'Everybody in this team' : 'Everybody with this role'"
    >{{ responsible.name }} <small class="quiet">{{ responsible.kind }}</small></span
  >
</template>
