<script setup lang="ts">
import { addFolder, changeFolder, removeFolder, type Folder } from '@kindred/contract/register/folders';
import { FolderPlus, Home, KeyRound, SpellCheck, Trash2 } from '@lucide/vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useNaming } from '../naming/store.ts';
import { usePeople } from '../people/store.ts';
import CheckAccessDialog from './CheckAccessDialog.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import FolderPermissionsPanel from './FolderPermissionsPanel.vue';
import { useFolders } from './folders-store.ts';

const project = useProject();
const folders = useFolders();
const people = usePeople();
const naming = useNaming();
const route = useRoute();
const router = useRouter();
const mayManage = computed(() => project.may('register', 'manage'));
const folder = computed(() => folders.byId.get(String(route.params.folderId)) ?? folders.list[0]);
const name = ref('');
const newName = ref('');
const asking = ref(false);
watch(folder, (now) => void (name.value = now?.name ?? ''), { immediate: true });

const open = (id: string) => router.replace({ name: 'folders', params: { ...project.params, folderId: id } });
const isBelow = (one: Folder, above: Folder): boolean => one.id === above.id || one.path.startsWith(`${above.path} / `);
const places = computed(() => folders.list.filter((one) => folder.value && !isBelow(one, folder.value)));
const teamOf = (id: string | null) => people.data?.teams.find((team) => team.id === id);
const source = computed(() => (folder.value ? folders.conventionSource(folder.value.parentId) : undefined));
const inherited = computed(() => {
  const from = source.value;
  const definition = folders.conventionIn(folder.value?.parentId ?? null);
  return `${definition?.name ?? ''}, ${from ? `from ${from.path}` : 'the project’s own'}`;
});

type Wanted = Partial<Pick<Folder, 'name' | 'parentId' | 'teamId' | 'conventionId'>>;
async function change(wanted: Wanted): Promise<void> {
  const { id, edition } = folder.value!;
  await attempt(() =>
    call(changeFolder, { params: { ...project.params, folderId: id }, body: { edition, ...wanted } }),
  );
  await folders.refetch();
  name.value = folder.value?.name ?? '';
}
async function add(parentId: string | null): Promise<void> {
  await attempt(async () => {
    const added = await call(addFolder, { params: project.params, body: { parentId, name: newName.value.trim() } });
    newName.value = '';
    await folders.refetch();
    await open(added.id);
  });
}
async function remove(): Promise<void> {
  const { id, path, parentId } = folder.value!;
  await attempt(async () => {
    await call(removeFolder, { params: { ...project.params, folderId: id } });
    await folders.refetch();
    sayDone(`“${path}” is gone.`);
    if (parentId) await open(parentId);
  });
}
</script>

<template>
  <div class="split">
    <aside class="tree">
      <h1>Folders</h1>
      <div v-arrow-keys="'[role=treeitem]'" class="list" role="tree" aria-label="Folders">
        <button
          v-for="one in folders.list"
          :key="one.id"
          role="treeitem"
          :aria-selected="one.id === folder?.id"
          :aria-level="one.depth + 1"
          :style="{ paddingLeft: `${8 + one.depth * 16}px` }"
          :class="{ here: one.id === folder?.id, hidden: one.level === 'hidden' }"
          @click="open(one.id)"
        >
          <i
            v-if="one.teamId"
            class="dot"
            :style="{ background: teamOf(one.teamId)?.colour }"
            :title="teamOf(one.teamId)?.name"
          />
          <span class="word">{{ one.name }}</span>
          <KeyRound v-if="one.permissions" :size="12" :aria-label="`${one.permissions} permissions set here`" />
          <SpellCheck v-if="one.conventionId" :size="13" aria-label="names its own convention" />
          <small class="mono quiet">{{ one.containers }}</small>
        </button>
      </div>
      <form v-if="mayManage" class="adder" @submit.prevent="folder && add(folder.id)">
        <el-input
          v-model="newName"
          size="small"
          maxlength="80"
          placeholder="Name of a new folder"
          aria-label="Name of a new folder"
        />
        <div class="row">
          <el-button size="small" native-type="submit" :disabled="!newName.trim() || !folder"
            ><FolderPlus :size="14" style="margin-right: 4px" /> Below {{ folder?.name }}</el-button
          >
          <el-button size="small" :disabled="!newName.trim()" @click="add(null)"
            ><Home :size="13" style="margin-right: 4px" /> At the top</el-button
          >
        </div>
      </form>
    </aside>
    <div v-if="folder" :key="folder.id" class="page">
      <div class="page-head">
        <h1>{{ folder.name }}</h1>
        <span class="quiet">{{ folder.path }} · {{ folder.containers }} containers that you see</span>
        <span class="spread" />
        <el-button @click="asking = true">Check access</el-button>
        <el-button
          v-if="mayManage && project.may('register', 'delete')"
          :disabled="folder.containers > 0"
          @click="remove"
          ><Trash2 :size="14" style="margin-right: 5px" /> Remove</el-button
        >
      </div>
      <div class="fields">
        <label class="field"
          ><span>Name</span
          ><el-input v-model="name" :disabled="!mayManage" maxlength="80" @change="name.trim() && change({ name })"
        /></label>
        <label class="field"
          ><span>Lies in</span
          ><el-select
            :empty-values="[null]"
            :model-value="folder.parentId ?? ''"
            :disabled="!mayManage"
            filterable
            default-first-option
            @update:model-value="change({ parentId: $event || null })"
            ><el-option value="" label="the top" /><el-option
              v-for="place in places"
              :key="place.id"
              :value="place.id"
              :label="place.path" /></el-select
        ></label>
        <label class="field"
          ><span>Home of a team: only it delivers here</span
          ><el-select
            :empty-values="[null]"
            :model-value="folder.teamId ?? ''"
            :disabled="!mayManage"
            @update:model-value="change({ teamId: $event || null })"
            ><el-option value="" label="no team" /><el-option
              v-for="team in people.data?.teams"
              :key="team.id"
              :value="team.id"
              :label="team.name" /></el-select
        ></label>
        <label class="field"
          ><span>Naming convention, here and below</span
          ><el-select
            :empty-values="[null]"
            :model-value="folder.conventionId ?? ''"
            :disabled="!mayManage"
            @update:model-value="change({ conventionId: $event || null })"
            ><el-option value="" :label="inherited" /><el-option
              v-for="convention in naming.naming?.conventions"
              :key="convention.id"
              :value="convention.id"
              :label="convention.definition.name" /></el-select
        ></label>
      </div>
      <FolderPermissionsPanel v-if="mayManage" :folder="folder" />
      <p v-else class="quiet">
        You may {{ folder.level }} here. Who else may do what, those who manage the register see.
      </p>
    </div>
    <div v-else class="page">
      <EmptyPlace v-if="folders.loaded" title="No folder yet"
        >Models and drawings lie in folders. Give the first one a name on the left.</EmptyPlace
      >
    </div>
    <CheckAccessDialog v-if="asking" :folder-id="folder?.id" @close="asking = false" />
  </div>
</template>

<style scoped>
.split {
  height: 100%;
  display: grid;
  grid-template-columns: 300px minmax(0, 1fr);
}
.tree {
  border-right: 1px solid var(--hairline);
  padding: 18px 0 12px 16px;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.list {
  flex: 1;
  overflow: auto;
  margin-top: 10px;
}
.list button {
  display: flex;
  align-items: center;
  gap: 7px;
  width: 100%;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  padding: 4px 12px 4px 8px;
  cursor: pointer;
  content-visibility: auto;
  contain-intrinsic-height: 27px;
}
.list button:hover {
  background: var(--wash);
}
.list button.here {
  background: var(--action-wash);
  font-weight: 600;
}
.list button.hidden {
  color: var(--graphite);
  font-style: italic;
}
.word {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.dot {
  width: 9px;
  height: 9px;
  border-radius: 50%;
  flex: none;
}
.adder {
  display: grid;
  gap: 6px;
  padding: 10px 14px 0 0;
  border-top: 1px solid var(--hairline);
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 20px;
  max-width: 780px;
  margin-bottom: 14px;
}
@media (max-width: 700px) {
  .split {
    display: block;
    overflow: auto;
  }
  .split > .page {
    height: auto;
    overflow: visible;
  }
  .tree {
    border-right: 0;
    border-bottom: 1px solid var(--hairline);
  }
  .tree .list {
    max-height: 34vh;
  }
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
