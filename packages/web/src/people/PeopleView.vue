<script setup lang="ts">
import { UserPlus, UsersRound } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import PersonBadge from '../platform/PersonBadge.vue';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import CompaniesPanel from './CompaniesPanel.vue';
import AddPersonDialog from './AddPersonDialog.vue';
import EditPersonDialog from './EditPersonDialog.vue';
import PasteManyDialog from './PasteManyDialog.vue';
import { usePeople } from './store.ts';
import { useFolders } from '../register/folders-store.ts';
import TeamsPanel from './TeamsPanel.vue';
import CheckAccessDialog from '../register/CheckAccessDialog.vue';

const project = useProject();
const people = usePeople();
const folders = useFolders();
const route = useRoute();
const time = useTime();
const open = ref<'' | 'add' | 'paste' | 'why'>('');
const editedId = ref('');
const withLeft = ref(false);
const words = ref('');
const edited = computed(() => people.data?.members.find(({ id }) => id === editedId.value));
const left = computed(() => people.data?.members.filter(({ leftAt }) => leftAt).length ?? 0);
const shown = computed(() => {
  const wanted = words.value.trim().toLowerCase();
  return (withLeft.value ? (people.data?.members ?? []) : people.members).filter(({ person, party, team, roles }) =>
    [person.name, person.email, party?.name, party?.code, team?.name, ...roles.map(({ name }) => name)]
      .join(' ')
      .toLowerCase()
      .includes(wanted),
  );
});
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>People</h1>
      <span class="quiet">{{ people.members.length }} people of {{ people.data?.parties.length }} companies</span>
      <el-input v-model="words" placeholder="Name, company, team or role" clearable style="width: 230px" />
      <el-checkbox v-if="left" v-model="withLeft">{{ left }} who left</el-checkbox>
      <span class="spread" />
      <el-button @click="open = 'why'">Check access</el-button>
      <template v-if="project.may('people', 'add')">
        <el-button @click="open = 'paste'"><UsersRound :size="15" style="margin-right: 5px" /> Add many</el-button>
        <el-button type="primary" @click="open = 'add'"
          ><UserPlus :size="15" style="margin-right: 5px" /> Add person</el-button
        >
      </template>
    </div>
    <table class="plain-table">
      <thead>
        <tr>
          <th>Person</th>
          <th>E-mail</th>
          <th>Company</th>
          <th>Team</th>
          <th>Roles</th>
          <th>Last visit</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="member in shown"
          :key="member.id"
          class="clickable"
          :class="{ sought: route.query.person === member.person.id, left: member.leftAt }"
          @click="editedId = member.id"
        >
          <td>
            <button class="plain">
              <PersonBadge :person="member.person" named />
            </button>
          </td>
          <td class="mono">{{ member.person.email }}</td>
          <td style="white-space: nowrap">
            <template v-if="member.party"
              >{{ member.party.name }} <span class="mono quiet">{{ member.party.code }}</span></template
            >
          </td>
          <td>
            <span v-if="member.team" class="sign full round" :style="{ color: member.team.colour }"
              ><span style="color: var(--ink)">{{ member.team.name }}</span></span
            >
          </td>
          <td>
            {{ member.roles.map(({ name }) => name).join(', ') }}<b v-if="member.administrator"> · administrator</b>
          </td>
          <td>
            <span v-if="member.leftAt" class="quiet">left {{ time.short(member.leftAt) }}</span>
            <span v-else-if="member.invited" class="sign caution">invited</span>
            <span v-else-if="member.lastVisitAt">{{ time.short(member.lastVisitAt) }}</span>
            <span v-else class="quiet">not yet</span>
          </td>
        </tr>
      </tbody>
    </table>
    <TeamsPanel :folders="folders.list" />
    <CompaniesPanel />
    <AddPersonDialog v-if="open === 'add'" @close="open = ''" />
    <PasteManyDialog v-if="open === 'paste'" @close="open = ''" />
    <EditPersonDialog
      v-if="edited && open !== 'why'"
      :key="edited.id"
      :member="edited"
      @close="editedId = ''"
      @why="open = 'why'"
    />
    <CheckAccessDialog v-if="open === 'why'" :member-id="editedId" @close="((open = ''), (editedId = ''))" />
  </div>
</template>

<style scoped>
.sought td {
  background: var(--action-wash);
}
.left td {
  color: var(--graphite);
}
.plain {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
</style>
