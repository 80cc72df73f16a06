<script setup lang="ts">
import { addPerson, suggestPeople } from '@kindred/contract/people/people';
import { reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { usePeople } from './store.ts';

const emit = defineEmits<{ close: [] }>();
const people = usePeople();
const project = useProject();
const form = reactive({
  name: '',
  email: '',
  company: '',
  code: '',
  teamId: null as string | null,
  roleIds: [] as string[],
  administrator: false,
});
const busy = ref(false);

const companies = (typed: string, give: (list: { value: string }[]) => void): void =>
  give(
    (people.data?.parties ?? [])
      .filter(({ name }) => name.toLowerCase().includes(typed.toLowerCase()))
      .map(({ name }) => ({ value: name })),
  );
function onCompany(): void {
  const known = people.data?.parties.find(({ name }) => name === form.company);
  if (known) form.code = known.code;
}

type Suggestion = Awaited<ReturnType<typeof suggested>>[number];
const suggested = (q: string) => call(suggestPeople, { params: project.params, query: { q } });
async function suggest(typed: string, give: (list: (Suggestion & { value: string })[]) => void): Promise<void> {
  const found = typed.trim().length < 2 ? [] : await suggested(typed.trim()).catch(() => []);
  give(found.map((person) => ({ ...person, value: person.name })));
}
/** Someone known from another project comes with address and company. */
function onKnown(person: Record<string, unknown>): void {
  const { name, email, party } = person as unknown as Suggestion;
  Object.assign(form, { name, email });
  if (party) Object.assign(form, { company: party.name, code: party.code });
}

async function add(): Promise<void> {
  busy.value = true;
  const { name, email, teamId, roleIds, administrator, company, code } = form;
  const added = await attempt(() =>
    call(addPerson, {
      params: project.params,
      body: {
        name,
        email,
        teamId,
        roleIds,
        administrator,
        ...(company.trim() && { party: { name: company.trim(), code: code.trim().toUpperCase() } }),
      },
    }),
  );
  busy.value = false;
  if (!added) return;
  sayDone(`${name} was added and told by mail.`);
  await people.refetch();
  emit('close');
}
</script>

<template>
  <el-dialog model-value title="Add person" width="520" @close="emit('close')">
    <form id="add-person" @submit.prevent="add">
      <label class="field"
        ><span>Name; people of your other projects are offered</span
        ><el-autocomplete v-model="form.name" :fetch-suggestions="suggest" :trigger-on-focus="false" @select="onKnown"
          ><template #default="{ item }"
            >{{ item.name }} <span class="quiet">{{ item.email }} · {{ item.party?.name }}</span></template
          ></el-autocomplete
        ></label
      >
      <label class="field"><span>E-mail</span><el-input v-model="form.email" type="email" /></label>
      <div class="row" style="align-items: end">
        <label class="field" style="flex: 1"
          ><span>Company</span
          ><el-autocomplete
            v-model="form.company"
            :fetch-suggestions="companies"
            @select="onCompany"
            @change="onCompany"
        /></label>
        <label class="field" style="width: 130px"
          ><span>Its code in names</span><el-input v-model="form.code" maxlength="6" class="mono"
        /></label>
      </div>
      <label class="field"
        ><span>Team</span
        ><el-select v-model="form.teamId" clearable placeholder="none"
          ><el-option
            v-for="team in people.data?.teams"
            :key="team.id"
            :value="team.id"
            :label="team.name" /></el-select
      ></label>
      <label class="field"
        ><span>Roles</span
        ><el-select v-model="form.roleIds" multiple placeholder="at least one"
          ><el-option
            v-for="role in people.data?.roles"
            :key="role.id"
            :value="role.id"
            :label="role.name" /></el-select
      ></label>
      <el-checkbox v-if="project.view?.me.administrator" v-model="form.administrator"
        >Administers this project as well</el-checkbox
      >
    </form>
    <template #footer>
      <el-button @click="emit('close')">Not now</el-button>
      <el-button
        type="primary"
        native-type="submit"
        form="add-person"
        :loading="busy"
        :disabled="!form.name.trim() || !form.email.trim() || !form.roleIds.length"
        >Add person</el-button
      >
    </template>
  </el-dialog>
</template>
