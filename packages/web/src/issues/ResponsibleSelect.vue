<script setup lang="ts">
/** Who has to answer: a person, whoever is in a team, or whoever has a role. */
import type { ResponsibleRef } from '@kindred/contract/issues/issues';
import type { Member } from '@kindred/contract/people/people';
import { computed } from 'vue';

const props = defineProps<{
  members: readonly Member[];
  teams: readonly { id: string; name: string }[];
  roles: readonly { id: string; name: string }[];
  placeholder?: string;
  disabled?: boolean;
}>();
const chosen = defineModel<ResponsibleRef | null>({ required: true });
const keyOf = ({ kind, id }: ResponsibleRef): string => `${kind}/${id}`;
const groups = computed(() => [
  {
    word: 'People',
    kind: 'person' as const,
    options: props.members.map(({ person, party }) => ({ id: person.id, name: person.name, note: party?.code ?? '' })),
  },
  { word: 'Everybody in a team', kind: 'team' as const, options: props.teams.map((one) => ({ ...one, note: '' })) },
  { word: 'Everybody with a role', kind: 'role' as const, options: props.roles.map((one) => ({ ...one, note: '' })) },
]);
function choose(key: string | undefined): void {
  const [kind, id] = key?.split('/') ?? [];
  chosen.value = kind && id ? { kind: kind as ResponsibleRef['kind'], id } : null;
}
</script>

<template>
  <el-select
    :model-value="chosen ? keyOf(chosen) : undefined"
    clearable
    filterable
    default-first-option
    :disabled="disabled"
    :placeholder="placeholder ?? 'nobody yet'"
    aria-label="Who answers"
    @update:model-value="choose"
  >
    <el-option-group
      v-for="group in groups.filter(({ options }) => options.length)"
      :key="group.kind"
      :label="group.word"
      ><el-option
        v-for="one in group.options"
        :key="one.id"
        :value="keyOf({ kind: group.kind, id: one.id })"
        :label="one.name"
        >{{ one.name }} <span v-if="one.note" class="quiet">{{ one.note }}</span></el-option
      ></el-option-group
    >
  </el-select>
</template>
