<script setup lang="ts">
import { listPeople } from '@kindred/contract/people/people';
import { UserPlus } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { ref } from 'vue';
import { useRoute } from 'vue-router';
import { call } from '../platform/api.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import AddPerson from './AddPerson.vue';
import RoleGrid from './RoleGrid.vue';

const project = useProject();
const route = useRoute();
const time = useTime();
const adding = ref(false);
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'person'],
  query: () => call(listPeople, { params: project.params }),
});
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>People</h1>
      <span class="quiet">{{ data?.members.length }} people of {{ data?.parties.length }} companies</span>
      <span class="spread" />
      <el-button v-if="project.may('people', 'add')" type="primary" @click="adding = true"
        ><UserPlus :size="15" style="margin-right: 5px" /> Add person</el-button
      >
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
          v-for="member in data?.members"
          :key="member.id"
          :class="{ sought: route.query.person === member.person.id }"
        >
          <td><PersonBadge :person="member.person" named /></td>
          <td class="mono">{{ member.person.email }}</td>
          <td>
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
            <span v-if="member.invited" class="sign caution">invited</span>
            <span v-else-if="member.lastVisitAt">{{ time.short(member.lastVisitAt) }}</span>
            <span v-else class="quiet">not yet</span>
          </td>
        </tr>
      </tbody>
    </table>
    <RoleGrid v-if="data" :roles="data.roles" />
    <AddPerson
      v-if="adding && data"
      :roles="data.roles"
      :teams="data.teams"
      :parties="data.parties"
      @close="adding = false"
      @added="refetch()"
    />
  </div>
</template>

<style scoped>
.sought td {
  background: var(--action-wash);
}
</style>
