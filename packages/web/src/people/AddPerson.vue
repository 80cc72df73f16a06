<script setup lang="ts">
import { addPerson, type Party, type Role, type Team } from '@kindred/contract/people/people';
import { reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ roles: Role[]; teams: Team[]; parties: Party[] }>();
const emit = defineEmits<{ close: []; added: [] }>();
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
    props.parties
      .filter(({ name }) => name.toLowerCase().includes(typed.toLowerCase()))
      .map(({ name }) => ({ value: name })),
  );
function onCompany(): void {
  const known = props.parties.find(({ name }) => name === form.company);
  if (known) form.code = known.code;
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
  emit('added');
  emit('close');
}
</script>

<template>
  <el-dialog model-value title="Add person" width="520" @close="emit('close')">
    <form id="add-person" @submit.prevent="add">
      <label class="field"><span>Name</span><el-input v-model="form.name" /></label>
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
          ><el-option v-for="team in teams" :key="team.id" :value="team.id" :label="team.name" /></el-select
      ></label>
      <label class="field"
        ><span>Roles</span
        ><el-select v-model="form.roleIds" multiple placeholder="at least one"
          ><el-option v-for="role in roles" :key="role.id" :value="role.id" :label="role.name" /></el-select
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
