<script setup lang="ts">
import { changePerson, correctPerson, inviteAgain, removePerson, type Member } from '@kindred/contract/people/people';
import { WORK_AREAS } from '@kindred/core/people/rights';
import { computed, reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import PersonSelect from './PersonSelect.vue';
import { usePeople } from './store.ts';

const { member } = defineProps<{ member: Member }>();
const emit = defineEmits<{ close: []; why: [] }>();
const project = useProject();
const people = usePeople();
const time = useTime();
const form = reactive({
  partyId: member.party?.id ?? '',
  teamId: member.team?.id ?? null,
  roleIds: member.roles.map(({ id }) => id),
  administrator: member.administrator,
  areas: [...(member.workAreas ?? WORK_AREAS)],
});
const leaving = ref(false);
const correcting = ref(false);
const corrected = reactive({ name: member.person.name, email: member.person.email });
const successorId = ref<string | null>(null);
const params = computed(() => ({ ...project.params, memberId: member.id }));
const mayChange = computed(() => project.may('people', 'change'));

async function done(words: string): Promise<void> {
  await people.refetch();
  sayDone(words);
  emit('close');
}
async function save(): Promise<void> {
  const party = people.data?.parties.find(({ id }) => id === form.partyId);
  await attempt(async () => {
    await call(changePerson, {
      params: params.value,
      body: {
        teamId: form.teamId,
        roleIds: form.roleIds,
        workAreas: form.areas.length === WORK_AREAS.length ? null : form.areas,
        ...(party && { party: { name: party.name, code: party.code } }),
        ...(form.administrator !== member.administrator && { administrator: form.administrator }),
      },
    });
    await done(`Saved. It holds from the next thing ${member.person.name} does.`);
  });
}
async function correct(): Promise<void> {
  await attempt(async () => {
    await call(correctPerson, { params: params.value, body: { ...corrected } });
    await done(`Corrected. ${corrected.email} has the invitation.`);
  });
}
async function invite(): Promise<void> {
  await attempt(async () => {
    await call(inviteAgain, { params: params.value });
    await done(`${member.person.name} was invited once more; the earlier link has ended.`);
  });
}
async function leave(): Promise<void> {
  await attempt(async () => {
    const { issues, reviews } = await call(removePerson, {
      params: params.value,
      body: { successorId: successorId.value },
    });
    await done(`${member.person.name} has left. Passed on: ${issues} issues, ${reviews} reviews.`);
  });
}
</script>

<template>
  <AppDialog :title="member.person.name" :width="540" @close="emit('close')">
    <p class="quiet">
      <span class="mono">{{ member.person.email }}</span> ·
      <template v-if="member.leftAt">left on {{ time.date(member.leftAt) }}</template>
      <template v-else-if="member.invited">invited, has not come yet</template>
      <template v-else-if="member.lastVisitAt">last here {{ time.moment(member.lastVisitAt) }}</template>
      <template v-else>has not come yet</template>
    </p>
    <form v-if="correcting" id="correct-person" @submit.prevent="correct">
      <label class="field"><span>Name</span><el-input v-model="corrected.name" maxlength="100" /></label>
      <label class="field"><span>E-mail</span><el-input v-model="corrected.email" type="email" /></label>
      <p class="quiet">
        Another address gets the invitation; the link that went to the old one opens nothing here any more.
      </p>
    </form>
    <template v-else-if="!leaving">
      <label class="field"
        ><span>Company</span
        ><el-select v-model="form.partyId" :disabled="!mayChange" placeholder="none"
          ><el-option
            v-for="party in people.data?.parties"
            :key="party.id"
            :value="party.id"
            :label="`${party.name} (${party.code})`" /></el-select
      ></label>
      <label class="field"
        ><span>Team</span
        ><el-select v-model="form.teamId" :disabled="!mayChange" clearable placeholder="none"
          ><el-option
            v-for="team in people.data?.teams"
            :key="team.id"
            :value="team.id"
            :label="team.name" /></el-select
      ></label>
      <label class="field"
        ><span>Roles</span
        ><el-select v-model="form.roleIds" :disabled="!mayChange" multiple placeholder="at least one"
          ><el-option
            v-for="role in people.data?.roles"
            :key="role.id"
            :value="role.id"
            :label="role.name" /></el-select
      ></label>
      <fieldset class="field areas">
        <span>Work areas that are shown to {{ member.person.name.split(' ')[0] }}</span>
        <el-checkbox
          v-for="area in WORK_AREAS"
          :key="area"
          :label="area"
          :model-value="form.areas.includes(area)"
          :disabled="!mayChange || (form.areas.length === 1 && form.areas[0] === area)"
          @change="form.areas = WORK_AREAS.filter((one) => (one === area ? $event : form.areas.includes(one)))"
        />
      </fieldset>
      <el-checkbox v-if="project.view?.me.administrator" v-model="form.administrator"
        >Administers this project, besides what the roles allow</el-checkbox
      >
    </template>
    <template v-else>
      <p>
        What {{ member.person.name }} delivered, wrote and decided stays, under this name. Open issues and reviews can
        pass to someone else.
      </p>
      <label class="field"
        ><span>Open work passes to</span
        ><PersonSelect
          v-model="successorId"
          membership
          :members="people.members.filter(({ id }) => id !== member.id)"
          placeholder="nobody: issues wait, reviews stay open"
      /></label>
    </template>
    <template #footer>
      <div class="row">
        <template v-if="correcting">
          <span class="spread" />
          <el-button @click="correcting = false">Back</el-button>
          <el-button
            type="primary"
            native-type="submit"
            form="correct-person"
            :disabled="!corrected.name.trim() || !corrected.email.trim()"
            >Correct</el-button
          >
        </template>
        <template v-else-if="!leaving">
          <el-button v-if="mayChange && member.invited && !member.leftAt" @click="correcting = true"
            >Correct name or address …</el-button
          >
          <el-button v-if="mayChange && !member.leftAt" @click="leaving = true">Leaves the project …</el-button>
          <el-button v-if="member.invited && project.may('people', 'add')" @click="invite">Invite again</el-button>
          <el-button @click="emit('why')">Check access</el-button>
          <span class="spread" />
          <el-button @click="emit('close')">Close</el-button>
          <el-button v-if="mayChange && !member.leftAt" type="primary" :disabled="!form.roleIds.length" @click="save"
            >Save</el-button
          >
        </template>
        <template v-else>
          <span class="spread" />
          <el-button @click="leaving = false">Back</el-button>
          <el-button type="danger" @click="leave">{{ member.person.name }} leaves</el-button>
        </template>
      </div>
    </template>
  </AppDialog>
</template>

<style scoped>
.areas {
  border: 0;
  padding: 0;
  margin: 0 0 10px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}
.areas > span {
  width: 100%;
}
</style>
