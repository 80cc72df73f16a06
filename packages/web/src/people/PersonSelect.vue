<script setup lang="ts">
import type { Member } from '@kindred/contract/people/people';

/** One person, several, or nobody of those offered, by their own id or by that of their membership. */
defineProps<{
  members: Member[];
  /** Stands pale behind the name. */
  note?: (member: Member) => string;
  membership?: boolean;
  multiple?: boolean;
  placeholder?: string;
}>();
const chosen = defineModel<string | string[] | null>({ required: true });
</script>

<template>
  <el-select
    v-model="chosen"
    :multiple="multiple"
    :clearable="!multiple"
    filterable
    default-first-option
    :placeholder="placeholder ?? 'none'"
    ><el-option
      v-for="member in members"
      :key="member.id"
      :value="membership ? member.id : member.person.id"
      :label="member.person.name"
      >{{ member.person.name }} <span v-if="note" class="quiet">{{ note(member) }}</span></el-option
    ></el-select
  >
</template>
