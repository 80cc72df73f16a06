<script setup lang="ts">
import {
  changeFolderPermissions,
  listFolderPermissions,
  type Folder,
  type FolderPermission,
  type FolderPermissions,
} from '@kindred/contract/register/folders';
import { LEVELS, SUBJECTS, type Level, type Subject } from '@kindred/core/register/folder-rights';
import { Trash2 } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, reactive } from 'vue';
import { usePeople } from '../people/store.ts';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';

const { folder } = defineProps<{ folder: Folder }>();
const project = useProject();
const people = usePeople();
const folders = useFolders();
const params = computed(() => ({ ...project.params, folderId: folder.id }));
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'folder', 'permissions', folder.id],
  query: () => call(listFolderPermissions, { params: params.value }),
});
type Shown = FolderPermissions['permissions'][number];
const own = computed(() => data.value?.permissions.filter((one) => one.own) ?? []);
const MEANINGS: Record<Level, string> = {
  hidden: 'hidden',
  see: 'see',
  deliver: 'see and deliver',
  manage: 'all, with names and folders',
};
const WORDS: Record<Subject, string> = { role: 'Roles', team: 'Teams', company: 'Companies', person: 'People' };
const choices = computed(() => ({
  role: people.data?.roles ?? [],
  team: people.data?.teams ?? [],
  company: people.data?.parties ?? [],
  person: people.members.map(({ id, person }) => ({ id, name: person.name })),
}));
const adding = reactive({ who: '', level: 'see' as Level });

async function set(permissions: readonly FolderPermission[]): Promise<void> {
  await attempt(() =>
    call(changeFolderPermissions, {
      params: params.value,
      body: {
        edition: data.value!.edition,
        permissions: permissions.map(({ subject, subjectId, level }) => ({ subject, subjectId, level })),
      },
    }),
  );
  await Promise.all([refetch(), folders.refetch()]);
}
const same = (a: FolderPermission, b: FolderPermission): boolean =>
  a.subject === b.subject && a.subjectId === b.subjectId;
const change = (one: Shown, level: Level) =>
  set([...own.value.filter((other) => !same(one, other)), { ...one, level }]);
const remove = (one: Shown) => set(own.value.filter((other) => !same(one, other)));
async function add(): Promise<void> {
  const [subject, subjectId] = adding.who.split(':') as [Subject, string];
  const fresh = { subject, subjectId, level: adding.level };
  await set([...own.value.filter((other) => !same(fresh, other)), fresh]);
  adding.who = '';
}
</script>

<template>
  <section>
    <h2>Who may do what here</h2>
    <p class="quiet">
      Roles say what kind of work somebody may do; permissions narrow where. The nearest folder counts; in one folder a
      person before the team, the company and the role.
    </p>
    <table v-if="data?.permissions.length" class="plain-table">
      <thead>
        <tr>
          <th>For</th>
          <th>Level</th>
          <th>Set on</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.permissions" :key="one.subject + one.subjectId" :class="{ taken: !one.own }">
          <td>
            {{ one.name }} <span class="quiet">{{ one.subject }}</span>
          </td>
          <td>
            <el-select
              :model-value="one.level"
              size="small"
              style="width: 190px"
              :aria-label="`Level of ${one.name}`"
              @update:model-value="change(one, $event)"
              ><el-option v-for="level in LEVELS" :key="level" :value="level" :label="MEANINGS[level]"
            /></el-select>
          </td>
          <td>
            <span v-if="one.own" class="sign full action">here</span>
            <span v-else class="sign quiet">from {{ one.folderPath }}</span>
          </td>
          <td class="right">
            <button
              v-if="one.own"
              class="button-link"
              :aria-label="`Remove the permission of ${one.name}`"
              @click="remove(one)"
            >
              <Trash2 :size="13" />
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet">No permission is set here or above: everybody's roles decide.</p>
    <form class="row" style="margin-top: 8px" @submit.prevent="add">
      <el-select
        v-model="adding.who"
        filterable
        default-first-option
        placeholder="Role, team, company or person"
        style="width: 260px"
        aria-label="For whom"
      >
        <el-option-group v-for="subject in [...SUBJECTS].reverse()" :key="subject" :label="WORDS[subject]"
          ><el-option
            v-for="choice in choices[subject]"
            :key="choice.id"
            :value="`${subject}:${choice.id}`"
            :label="choice.name"
        /></el-option-group>
      </el-select>
      <el-select v-model="adding.level" style="width: 190px" aria-label="Level"
        ><el-option v-for="level in LEVELS" :key="level" :value="level" :label="MEANINGS[level]"
      /></el-select>
      <el-button native-type="submit" :disabled="!adding.who">Set</el-button>
    </form>
  </section>
</template>

<style scoped>
.taken td {
  color: var(--graphite);
}
</style>
