<script setup lang="ts">
import { addPeople } from '@kindred/contract/people/people';
import { readPeople } from '@kindred/core/people/paste';
import { pasteProblems } from '@kindred/words/people';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { usePeople } from './store.ts';

const emit = defineEmits<{ close: [] }>();
const project = useProject();
const people = usePeople();
const typed = ref('');
const text = refDebounced(typed, 200);
const roleId = ref(people.data?.roles.find(({ name }) => name === 'Author')?.id ?? people.data?.roles[0]?.id ?? null);
const busy = ref(false);
/** Addresses that the server refused, and why. */
const refused = ref(new Map<string, string>());

const lines = computed(() => {
  const { roles = [], teams = [], parties = [] } = people.data ?? {};
  const emails = new Set(people.members.map(({ person }) => person.email));
  return readPeople(text.value, { roles, teams, companies: parties, emails }, roleId.value).map((line) => ({
    ...line,
    problem: pasteProblems(line.problems) || (refused.value.get(line.email) ?? ''),
  }));
});
const right = computed(() => lines.value.filter(({ problem }) => !problem));
const nameOf = (list: { id: string; name: string }[] | undefined, id: string | null): string =>
  list?.find((one) => one.id === id)?.name ?? '';

async function add(): Promise<void> {
  busy.value = true;
  await attempt(async () => {
    // Held fast: while people are added, the list of those already there grows under our hands.
    const before = lines.value;
    const sent = right.value.map(({ name, email, company, code, teamId, roleIds }) => ({
      name,
      email,
      teamId,
      roleIds,
      ...(company && { party: { name: company, code } }),
    }));
    let added = 0;
    for (let i = 0; i < sent.length; i += 500) {
      const { outcomes } = await call(addPeople, { params: project.params, body: { people: sent.slice(i, i + 500) } });
      added += outcomes.filter((outcome) => outcome.added).length;
      for (const { email, problem } of outcomes) if (problem) refused.value.set(email, problem);
    }
    refused.value = new Map(refused.value);
    // What was added leaves the box; what is wrong stays in it, to be mended.
    const stays = ({ problem, email }: (typeof before)[number]) => problem !== '' || refused.value.has(email);
    const wrong = new Set(before.filter(stays).map(({ line }) => line));
    typed.value = typed.value
      .split(/\r?\n/)
      .filter((_, i) => wrong.has(i + 1))
      .join('\n');
    await people.refetch();
    sayDone(`${added} people were added and told by mail.`);
    if (!wrong.size) emit('close');
  });
  busy.value = false;
}
</script>

<template>
  <AppDialog title="Add many people" :width="980" top="6vh" @close="emit('close')">
    <div class="row" style="align-items: end; margin-bottom: 10px">
      <p class="quiet" style="flex: 1; margin: 0">
        One person a line, as from a spreadsheet: name, e-mail, company, its code, team, roles (with + between). Only
        the first two are needed. Lines such as “Ann Bole &lt;ann@firm.example&gt;” work too.
      </p>
      <label class="field" style="margin: 0"
        ><span>Role where none is given</span
        ><el-select v-model="roleId" clearable style="width: 190px"
          ><el-option
            v-for="role in people.data?.roles"
            :key="role.id"
            :value="role.id"
            :label="role.name" /></el-select
      ></label>
    </div>
    <el-input v-model="typed" type="textarea" :rows="6" class="mono" aria-label="People, one a line" />
    <div v-if="lines.length" class="lines">
      <table class="plain-table">
        <thead>
          <tr>
            <th class="right">Line</th>
            <th>Person</th>
            <th>E-mail</th>
            <th>Company</th>
            <th>Team</th>
            <th>Roles</th>
            <th style="width: 34%">Verdict</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in lines" :key="line.line">
            <td class="mono right quiet">{{ line.line }}</td>
            <td>{{ line.name }}</td>
            <td class="mono">{{ line.email }}</td>
            <td>
              {{ line.company }} <span class="mono quiet">{{ line.code }}</span>
            </td>
            <td>{{ nameOf(people.data?.teams, line.teamId) }}</td>
            <td>{{ line.roleIds.map((id) => nameOf(people.data?.roles, id)).join(', ') }}</td>
            <td>
              <span v-if="line.problem" class="sign needs-you" style="white-space: normal">{{ line.problem }}</span>
              <span v-else class="sign action full">will be added</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <template #footer>
      <span v-if="lines.length > right.length" class="quiet" style="margin-right: 12px"
        >{{ lines.length - right.length }} stay here to be mended</span
      >
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :loading="busy" :disabled="!right.length" @click="add"
        >Add {{ right.length }} {{ right.length === 1 ? 'person' : 'people' }}</el-button
      >
    </template>
  </AppDialog>
</template>

<style scoped>
.lines {
  max-height: 42vh;
  overflow: auto;
  margin-top: 12px;
}
</style>
