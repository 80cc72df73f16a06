<script setup lang="ts">
import { addTeam, changeTeam, type Team } from '@kindred/contract/people/people';
import { Trash2 } from '@lucide/vue';
import { computed, reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import PersonSelect from './PersonSelect.vue';
import RemoveTeamDialog from './RemoveTeamDialog.vue';
import { usePeople } from './store.ts';

/** Fixed, told apart with any kind of colour vision. */
const COLOURS = ['#3F6188', '#B4502D', '#14706A', '#7A4FA3', '#B97A10', '#5B6B2F'];
const project = useProject();
const people = usePeople();
/** Folders that may be the home of a team. */
const props = defineProps<{ folders: readonly { id: string; path: string }[] }>();
const form = reactive({ name: '', discipline: '' });
const removed = ref<Team | null>(null);
const mayRemove = computed(() => Boolean(project.view?.me.administrator) && (people.data?.teams.length ?? 0) > 1);
const mayManage = computed(() => project.may('people', 'manage'));
const personOf = (id: string | null): string =>
  people.data?.members.find(({ person }) => person.id === id)?.person.name ?? '';
const pathOf = (id: string | null): string => props.folders.find((folder) => folder.id === id)?.path ?? '';
const sizeOf = (team: Team): number => people.members.filter((member) => member.team?.id === team.id).length;

async function change(
  team: Team,
  wanted: Partial<Pick<Team, 'name' | 'discipline' | 'colour' | 'leadId' | 'homeFolderId'>>,
): Promise<void> {
  await attempt(() => call(changeTeam, { params: { ...project.params, teamId: team.id }, body: wanted }));
  await people.refetch();
}
async function add(): Promise<void> {
  const added = await attempt(() => call(addTeam, { params: project.params, body: { ...form } }));
  if (added) Object.assign(form, { name: '', discipline: '' });
  await people.refetch();
}
</script>

<template>
  <section>
    <h2>Teams</h2>
    <table class="plain-table">
      <thead>
        <tr>
          <th>Team</th>
          <th>Colour</th>
          <th>Discipline</th>
          <th>Lead</th>
          <th>Home folder</th>
          <th class="right">People</th>
          <th v-if="mayRemove"><span class="only-read">What to do</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="team in people.data?.teams" :key="team.id">
          <td>
            <span class="sign full round" :style="{ color: team.colour }"
              ><el-input
                v-if="mayManage"
                :key="team.name"
                :model-value="team.name"
                size="small"
                maxlength="80"
                :aria-label="`Name of ${team.name}`"
                @change="change(team, { name: $event.trim() || team.name })"
              /><span v-else style="color: var(--ink)">{{ team.name }}</span></span
            >
          </td>
          <td>
            <span v-if="mayManage" class="colours" role="radiogroup" :aria-label="`Colour of ${team.name}`">
              <button
                v-for="colour in COLOURS"
                :key="colour"
                role="radio"
                :aria-checked="team.colour === colour"
                :aria-label="colour"
                :style="{ background: colour }"
                @click="change(team, { colour })"
              />
            </span>
          </td>
          <td>
            <el-input
              v-if="mayManage"
              :key="team.discipline"
              :model-value="team.discipline"
              size="small"
              maxlength="80"
              :aria-label="`Discipline of ${team.name}`"
              @change="change(team, { discipline: $event.trim() || team.discipline })"
            /><template v-else>{{ team.discipline }}</template>
          </td>
          <td>
            <PersonSelect
              v-if="mayManage"
              :model-value="team.leadId"
              size="small"
              :members="people.members"
              placeholder="nobody"
              :aria-label="`Lead of ${team.name}`"
              @update:model-value="change(team, { leadId: ($event as string | null) || null })"
            /><template v-else>{{ personOf(team.leadId) }}</template>
          </td>
          <td>
            <el-select
              v-if="mayManage"
              :model-value="team.homeFolderId"
              size="small"
              clearable
              filterable
              default-first-option
              placeholder="none"
              :aria-label="`Home folder of ${team.name}`"
              @update:model-value="change(team, { homeFolderId: $event || null })"
              ><el-option
                v-for="folder in folders"
                :key="folder.id"
                :value="folder.id"
                :label="folder.path" /></el-select
            ><template v-else>{{ pathOf(team.homeFolderId) }}</template>
          </td>
          <td class="right mono">{{ sizeOf(team) }}</td>
          <td v-if="mayRemove" class="right">
            <button class="button-link" :aria-label="`Remove ${team.name} …`" @click="removed = team">
              <Trash2 :size="14" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <form v-if="mayManage" class="row" style="margin-top: 8px" @submit.prevent="add">
      <el-input
        v-model="form.name"
        placeholder="Name, best as its folder"
        style="width: 210px"
        aria-label="Name of a new team"
      />
      <el-input v-model="form.discipline" placeholder="Discipline" style="width: 190px" aria-label="Its discipline" />
      <el-button native-type="submit" :disabled="!form.name.trim() || !form.discipline.trim()">Add team</el-button>
    </form>
    <RemoveTeamDialog v-if="removed" :team="removed" @close="removed = null" />
  </section>
</template>

<style scoped>
.only-read {
  position: absolute;
  clip-path: inset(50%);
}
section {
  margin-top: 26px;
}
h2 {
  margin-bottom: 8px;
}
.colours {
  display: inline-flex;
  gap: 3px;
}
.colours button {
  width: 14px;
  height: 14px;
  border: 2px solid transparent;
  background-clip: content-box;
  border-radius: 50%;
  padding: 0;
  cursor: pointer;
}
.colours button[aria-checked='true'] {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
</style>
