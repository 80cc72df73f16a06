<script setup lang="ts">
import { removeTeam, type Team } from '@kindred/contract/people/people';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { usePeople } from './store.ts';

/** A team goes; all that it has passes to another one. */
const { team } = defineProps<{ team: Team }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const people = usePeople();
const successorId = ref('');
const others = computed(() => people.data?.teams.filter(({ id }) => id !== team.id) ?? []);

async function remove(): Promise<void> {
  const params = { ...project.params, teamId: team.id };
  await call(removeTeam, { params, body: { successorId: successorId.value } });
  await people.refetch();
  sayDone(
    `${team.name} is gone. What it had is with ${others.value.find(({ id }) => id === successorId.value)?.name}.`,
  );
}
</script>

<template>
  <FormDialog
    :title="`Remove the team ${team.name}`"
    verb="Remove the team"
    :ready="successorId !== ''"
    :run="remove"
    @close="emit('close')"
  >
    <p>
      Its people, folders, containers, share sets and work in progress pass to another team, which sees all of it from
      then on. History keeps what was done as it was.
    </p>
    <label class="field"
      ><span>They pass to</span
      ><el-select v-model="successorId" placeholder="which team?" aria-label="Team that takes over"
        ><el-option v-for="other in others" :key="other.id" :value="other.id" :label="other.name" /></el-select
    ></label>
  </FormDialog>
</template>
