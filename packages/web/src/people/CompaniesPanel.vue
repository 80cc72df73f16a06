<script setup lang="ts">
import { changeParty, removeParty, type Party } from '@kindred/contract/people/people';
import { Trash2 } from '@lucide/vue';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { usePeople } from './store.ts';

/** The companies of the project: corrected in place; one that nobody is of can go. */
const project = useProject();
const people = usePeople();
const mayManage = computed(() => project.may('people', 'manage'));
const sizeOf = ({ id }: Party): number => people.data?.members.filter(({ party }) => party?.id === id).length ?? 0;

async function change(party: Party, wanted: Partial<Party>): Promise<void> {
  const name = (wanted.name ?? party.name).trim();
  const code = (wanted.code ?? party.code).trim().toUpperCase();
  if (name === party.name && code === party.code) return;
  const params = { ...project.params, partyId: party.id };
  if (await attempt(() => call(changeParty, { params, body: { name, code } }))) sayDone(`${name}, ${code}: corrected.`);
  await people.refetch();
}
async function remove(party: Party): Promise<void> {
  const params = { ...project.params, partyId: party.id };
  if (await attempt(() => call(removeParty, { params }))) sayDone(`${party.name} is gone.`);
  await people.refetch();
}
</script>

<template>
  <section v-if="people.data?.parties.length">
    <h2>Companies</h2>
    <table class="plain-table">
      <thead>
        <tr>
          <th>Company</th>
          <th>Code in names</th>
          <th class="right">People</th>
          <th v-if="mayManage"><span class="only-read">What to do</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="party in people.data.parties" :key="party.id">
          <td>
            <el-input
              v-if="mayManage"
              :key="party.name"
              :model-value="party.name"
              size="small"
              maxlength="120"
              :aria-label="`Name of ${party.name}`"
              @change="change(party, { name: $event })"
            /><template v-else>{{ party.name }}</template>
          </td>
          <td>
            <el-input
              v-if="mayManage"
              :key="party.code"
              :model-value="party.code"
              size="small"
              maxlength="6"
              class="mono code"
              :aria-label="`Code of ${party.name}`"
              @change="change(party, { code: $event })"
            /><span v-else class="mono">{{ party.code }}</span>
          </td>
          <td class="right mono">{{ sizeOf(party) }}</td>
          <td v-if="mayManage" class="right">
            <button
              v-if="!sizeOf(party)"
              class="button-link"
              :aria-label="`Remove ${party.name}`"
              @click="remove(party)"
            >
              <Trash2 :size="14" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="mayManage" class="quiet">
      Codes that are allowed in names stand in the naming convention; containers keep the codes that they have.
    </p>
  </section>
</template>

<style scoped>
section {
  margin-top: 26px;
}
h2 {
  margin-bottom: 8px;
}
.code {
  width: 96px;
}
.only-read {
  position: absolute;
  clip-path: inset(50%);
}
</style>
