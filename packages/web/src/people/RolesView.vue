<script setup lang="ts">
import { changeRoles } from '@kindred/contract/people/people';
import { ACTIONS, KINDS, type Action, type Grid, type Kind } from '@kindred/core/people/rights';
import type { RoleDraft } from '@kindred/core/people/role-drafts';
import { readRoles, writeRoles } from '@kindred/core/people/roles';
import { Copy, Download, Plus, Trash2, Upload } from '@lucide/vue';
import { computed, ref } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { call } from '../platform/api.ts';
import { openText, saveText } from '../platform/files.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import RightCells from './RightCells.vue';
import { useRoleDrafts } from './role-drafts.ts';
import { usePeople } from './store.ts';
import CheckAccessDialog from '../register/CheckAccessDialog.vue';

const project = useProject();
const people = usePeople();
const {
  drafts,
  chosen,
  dirty,
  affected,
  changes,
  savedOf,
  isChanged,
  discard,
  setRight,
  replace,
  choose,
  add,
  remove,
  bring,
} = useRoleDrafts();
const mayManage = computed(() => project.may('people', 'manage'));
const asking = ref(false);
const busy = ref(false);

const WORDS: Record<Kind, string> = {
  project: 'Project details',
  people: 'People and roles',
  naming: 'Naming',
  register: 'Register and folders',
  markup: 'Markups',
  scene: 'Scene and viewpoints',
  issues: 'Issues',
  review: 'Reviews',
  transmittal: 'Transmittals',
};
const has = (grid: Grid, kind: Kind, action: Action): boolean => grid[kind]?.includes(action) ?? false;
/** Rows in which the compared roles do not agree: the chosen ones, or all. */
const compared = computed(() =>
  chosen.value.size > 1 ? drafts.value.filter(({ key }) => chosen.value.has(key)) : drafts.value,
);
const differing = computed(
  () =>
    new Set(
      KINDS.filter((kind) =>
        ACTIONS.some((action) => new Set(compared.value.map(({ grid }) => has(grid, kind, action))).size > 1),
      ),
    ),
);
const holders = computed(() => {
  const counts = new Map<string, number>();
  for (const member of people.members) for (const { id } of member.roles) counts.set(id, (counts.get(id) ?? 0) + 1);
  return counts;
});
const heldBy = (draft: RoleDraft): number => holders.value.get(draft.id ?? '') ?? 0;
const rights = (list: { kind: Kind; action: Action }[]): string =>
  list.map(({ kind, action }) => `${action} ${WORDS[kind].toLowerCase()}`).join(', ');
const personOf = (memberId: string): string => people.members.find(({ id }) => id === memberId)?.person.name ?? '';
const only = computed(() => drafts.value.filter(({ key }) => chosen.value.has(key)));

async function save(): Promise<void> {
  busy.value = true;
  const saved = await attempt(async () => {
    await call(changeRoles, { params: project.params, body: changes.value });
    await people.refetch();
    discard();
  });
  busy.value = false;
  if (saved) sayDone('Saved. It holds from the next thing each of them does.');
}
function copy(): void {
  for (const { name, grid } of only.value) add(`${name}, copy`, { ...grid });
}
function exportRoles(): void {
  const list = only.value.length ? only.value : drafts.value;
  saveText('roles.json', writeRoles(list), 'application/json');
}
async function importRoles(): Promise<void> {
  await attempt(async () => {
    const file = await openText('.json,application/json');
    if (file) bring(readRoles(file.text));
  });
}
onBeforeRouteLeave(() => !dirty.value || window.confirm('Changes of roles are not saved. Leave them behind?'));
</script>

<template>
  <div class="roles">
    <div class="page-head head">
      <h1>Roles</h1>
      <span class="quiet">Tick several roles to compare them and to change them together.</span>
      <span class="spread" />
      <el-button @click="asking = true">Check access</el-button>
      <template v-if="mayManage">
        <el-button @click="importRoles"><Upload :size="15" class="icon" /> Import</el-button>
        <el-button @click="exportRoles"
          ><Download :size="15" class="icon" /> Export {{ only.length || 'all' }}</el-button
        >
        <el-button :disabled="!only.length" @click="copy"><Copy :size="15" class="icon" /> Copy</el-button>
        <el-button type="primary" @click="add('New role', { project: ['see'] })"
          ><Plus :size="15" class="icon" /> New role</el-button
        >
      </template>
    </div>
    <div v-arrow-keys="'.cells button'" class="grid">
      <table class="plain-table">
        <thead>
          <tr>
            <th class="kind">What it may do with</th>
            <th v-for="draft in drafts" :key="draft.key" :class="{ chosen: chosen.has(draft.key) }">
              <div class="row">
                <input
                  type="checkbox"
                  :checked="chosen.has(draft.key)"
                  :aria-label="`Choose ${draft.name}`"
                  @change="choose(draft)"
                />
                <input
                  v-if="mayManage"
                  :value="draft.name"
                  class="name"
                  maxlength="60"
                  :aria-label="`Name of ${draft.name}`"
                  @change="replace(draft, { name: ($event.target as HTMLInputElement).value.trim() || draft.name })"
                />
                <b v-else>{{ draft.name }}</b>
                <button
                  v-if="mayManage"
                  class="button-link"
                  :disabled="heldBy(draft) > 0"
                  :title="heldBy(draft) ? `${heldBy(draft)} people have it` : `Remove ${draft.name}`"
                  :aria-label="`Remove ${draft.name}`"
                  @click="remove(draft)"
                >
                  <Trash2 :size="13" />
                </button>
              </div>
              <small class="quiet"
                >{{ heldBy(draft) }} {{ heldBy(draft) === 1 ? 'person' : 'people'
                }}<span v-if="isChanged(draft)" class="sign caution after">not saved</span></small
              >
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="kind in KINDS" :key="kind">
            <td class="kind">
              <b v-if="differing.has(kind)" title="The roles differ here">{{ WORDS[kind] }} ≠</b
              ><span v-else>{{ WORDS[kind] }}</span>
            </td>
            <td v-for="draft in drafts" :key="draft.key" :class="{ chosen: chosen.has(draft.key) }">
              <RightCells
                :kind="kind"
                :granted="draft.grid[kind]?.join() ?? ''"
                :saved="savedOf(draft)?.grid[kind]?.join() ?? ''"
                :title="`${draft.name}, ${WORDS[kind]}`"
                :readonly="!mayManage"
                @toggle="setRight(draft, kind, $event)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <footer v-if="dirty" class="affected" aria-label="Who is affected">
      <div class="who">
        <b v-if="affected.length"
          >{{ affected.length }} {{ affected.length === 1 ? 'person is' : 'people are' }} affected</b
        >
        <b v-else>Nobody is affected</b>
        <p v-for="one in affected.slice(0, 40)" :key="one.memberId">
          {{ personOf(one.memberId) }}
          <span v-if="one.gains.length" class="gains">+ {{ rights(one.gains) }}</span>
          <span v-if="one.loses.length" class="loses">− {{ rights(one.loses) }}</span>
        </p>
      </div>
      <el-button @click="discard">Discard</el-button>
      <el-button type="primary" :loading="busy" @click="save">Save roles</el-button>
    </footer>
    <CheckAccessDialog v-if="asking" @close="asking = false" />
  </div>
</template>

<style scoped>
.roles {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.head {
  padding: 18px 22px 0;
}
.icon {
  margin-right: 5px;
}
.grid {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 0 22px 22px;
}
.plain-table {
  width: auto;
  min-width: 100%;
}
.kind {
  position: sticky;
  left: 0;
  background: var(--sheet);
  white-space: nowrap;
  z-index: 1;
}
th {
  vertical-align: top;
}
th .row {
  gap: 5px;
}
th small {
  padding-left: 20px;
}
.chosen {
  background: var(--action-wash);
}
.name {
  font: inherit;
  font-weight: 600;
  color: var(--ink);
  border: 1px solid transparent;
  background: none;
  width: 118px;
  padding: 1px 2px;
}
.name:hover,
.name:focus {
  border-color: var(--hairline);
  background: var(--sheet);
}
.button-link:disabled {
  color: #c9c3b4;
  cursor: default;
}
.affected {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 22px;
  border-top: 1px solid var(--hairline);
  background: var(--sheet);
}
.who {
  flex: 1;
  max-height: 120px;
  overflow: auto;
}
.who p {
  margin: 2px 0 0;
}
.gains {
  color: var(--action);
  margin-left: 8px;
}
.loses {
  color: var(--needs-you);
  margin-left: 8px;
}
</style>
