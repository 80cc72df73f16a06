<script setup lang="ts">
import { addPerson, suggestPeople } from '@kindred/contract/people/people';
import type { Response } from '@kindred/contract/platform/operation';
import { reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
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

function onCompany(): void {
  const known = people.data?.parties.find(({ name }) => name === form.company);
  if (known) form.code = known.code;
}

type Person = Response<typeof suggestPeople>[number];
const known = ref<Person[]>([]);
const label = (person: Person): string => `${person.name} · ${person.email}`;
/** Offers whoever is known from other projects; the one chosen comes with address and company. */
async function onName(typed: string): Promise<void> {
  const chosen = known.value.find((person) => label(person) === typed);
  if (chosen) {
    const { name, email, party } = chosen;
    Object.assign(form, { name, email, ...(party && { company: party.name, code: party.code }) });
    return;
  }
  const q = typed.trim();
  const people = q.length < 2 ? [] : await call(suggestPeople, { params: project.params, query: { q } });
  if (q === form.name.trim()) known.value = people;
}

async function add(): Promise<void> {
  const { name, email, teamId, roleIds, administrator, company, code } = form;
  await call(addPerson, {
    params: project.params,
    body: {
      name,
      email,
      teamId,
      roleIds,
      administrator,
      ...(company.trim() && { party: { name: company.trim(), code: code.trim().toUpperCase() } }),
    },
  });
  sayDone(`${name} was added and told by mail.`);
  await people.refetch();
}
</script>

<template>
  <FormDialog
    title="Add person"
    verb="Add person"
    :width="520"
    :ready="form.name.trim() !== '' && form.email.trim() !== '' && form.roleIds.length > 0"
    :run="add"
    @close="emit('close')"
  >
    <label class="field"
      ><span>Name; people of your other projects are offered</span
      ><el-input v-model="form.name" list="known-people" autocomplete="off" @input="onName"
    /></label>
    <datalist id="known-people">
      <option v-for="person in known" :key="person.email" :value="label(person)" />
    </datalist>
    <label class="field"><span>E-mail</span><el-input v-model="form.email" type="email" /></label>
    <div class="row" style="align-items: end">
      <label class="field" style="flex: 1"
        ><span>Company</span
        ><el-input v-model="form.company" list="known-companies" autocomplete="off" @input="onCompany"
      /></label>
      <datalist id="known-companies">
        <option v-for="party in people.data?.parties" :key="party.id" :value="party.name" />
      </datalist>
      <label class="field" style="width: 130px"
        ><span>Its code in names</span><el-input v-model="form.code" maxlength="6" class="mono"
      /></label>
    </div>
    <label class="field"
      ><span>Team</span
      ><el-select v-model="form.teamId" clearable placeholder="none"
        ><el-option v-for="team in people.data?.teams" :key="team.id" :value="team.id" :label="team.name" /></el-select
    ></label>
    <label class="field"
      ><span>Roles</span
      ><el-select v-model="form.roleIds" multiple placeholder="at least one"
        ><el-option v-for="role in people.data?.roles" :key="role.id" :value="role.id" :label="role.name" /></el-select
    ></label>
    <el-checkbox v-if="project.view?.me.administrator" v-model="form.administrator"
      >Administers this project as well</el-checkbox
    >
  </FormDialog>
</template>
