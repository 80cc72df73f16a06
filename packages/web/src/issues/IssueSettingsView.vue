<script setup lang="ts">
/** What this project decides about its issues: types with their rules, priorities, labels. */
import { changeIssueSettings } from '@kindred/contract/issues/settings';
import {
  ISSUE_CONCERNS,
  REQUIRABLE_FIELDS,
  settingsProblem,
  starterType,
  type IssueConcern,
  type IssueSettings,
  type IssueTypeRule,
} from '@kindred/core/issues/settings';
import { ISSUE_ACTIONS } from '@kindred/core/issues/states';
import { ISSUE_CONCERN_WORDS, ISSUE_FIELD_WORDS, issueSettingsProblem } from '@kindred/words/issues';
import { ArrowDown, ArrowUp, Plus, X } from '@lucide/vue';
import { computed, ref, watch } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { STEP_WORDS } from './signs.ts';
import { useIssueSettings } from './store.ts';

const project = useProject();
const kept = useIssueSettings();
const mayChange = computed(() => project.view?.me.administrator ?? false);

/** Each with the name that it is kept under, so that issues can follow. */
interface Named<T> {
  was: string | null;
  of: T;
}
const types = ref<Named<IssueTypeRule>[]>([]);
const priorities = ref<Named<{ name: string; blocks: boolean }>[]>([]);
const labels = ref<Named<{ name: string }>[]>([]);
const edition = ref(0);
const at = ref(0);
const copied = <T,>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
function take(): void {
  const { settings } = kept;
  types.value = settings.types.map((of) => ({ was: of.name, of: copied(of) }));
  priorities.value = settings.priorities.map((of) => ({ was: of.name, of: { ...of } }));
  labels.value = settings.labels.map((name) => ({ was: name, of: { name } }));
  edition.value = kept.data?.edition ?? 0;
  at.value = Math.min(at.value, settings.types.length - 1);
}
watch(
  () => kept.data?.edition,
  () => take(),
  { immediate: true },
);
const chosen = computed(() => types.value[at.value]?.of);
const settings = computed((): IssueSettings => ({
  types: types.value.map(({ of }) => ({ ...of, name: of.name.trim() })),
  priorities: priorities.value.map(({ of }) => ({ ...of, name: of.name.trim() })),
  labels: labels.value.map(({ of }) => of.name.trim()),
}));
const dirty = computed(() => edition.value > 0 && JSON.stringify(settings.value) !== JSON.stringify(kept.settings));
const unnamed = computed(() =>
  [...types.value, ...priorities.value, ...labels.value].some(({ of }) => !of.name.trim() || of.name.includes(',')),
);
const problem = computed(() => {
  if (unnamed.value) return 'Every word needs letters, and none has a comma.';
  const found = settingsProblem(settings.value);
  return found ? issueSettingsProblem(found) : '';
});
const renamed = <T extends { name: string }>(all: Named<T>[]): Record<string, string> =>
  Object.fromEntries(
    all.flatMap(({ was, of }) => (was !== null && was !== of.name.trim() ? [[was, of.name.trim()]] : [])),
  );
async function save(): Promise<void> {
  const saved = await attempt(async () => {
    await call(changeIssueSettings, {
      params: project.params,
      body: {
        edition: edition.value,
        settings: settings.value,
        renamed: {
          types: renamed(types.value),
          priorities: renamed(priorities.value),
          labels: renamed(labels.value),
        },
      },
    });
    await kept.refetch();
    take();
  });
  if (saved) sayDone('Saved. It holds from the next issue on.');
}
onBeforeRouteLeave(() => !dirty.value || window.confirm('What issues are is not saved. Leave it behind?'));

const used = (words: 'types' | 'priorities' | 'labels', was: string | null): number =>
  (was !== null && kept.data?.used[words][was]) || 0;
function move<T>(all: T[], i: number, by: -1 | 1): void {
  const [one] = all.splice(i, 1);
  all.splice(i + by, 0, one!);
}
function addType(): void {
  types.value.push({ was: null, of: starterType('') });
  at.value = types.value.length - 1;
}
function removeType(): void {
  types.value.splice(at.value, 1);
  at.value = Math.max(0, at.value - 1);
}
function toggle<T>(list: T[], value: T): void {
  const i = list.indexOf(value);
  if (i < 0) list.push(value);
  else list.splice(i, 1);
}
/** One tick for what is meant most often. */
const strict = computed({
  get: () => {
    const by = chosen.value?.steps.close.by ?? [];
    return by.length > 0 && by.every((one) => one === 'raiser' || one === 'verifier');
  },
  set: (on: boolean) => {
    const by: IssueConcern[] = on ? ['raiser', 'verifier'] : ['raiser', 'verifier', 'changer'];
    chosen.value!.steps.close.by = by;
  },
});
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Types of issues</h1>
      <span class="quiet">Which words this project has for issues, and who may do what with each type.</span>
      <span class="spread" />
      <span v-if="mayChange && problem" class="sign needs-you full" role="alert">{{ problem }}</span>
      <template v-if="mayChange">
        <el-button v-if="dirty" @click="take">Take back</el-button>
        <el-button type="primary" :disabled="!dirty || problem !== ''" @click="save">Save</el-button>
      </template>
    </div>
    <fieldset :disabled="!mayChange" class="all">
      <div class="columns">
        <section aria-label="Types" data-help="issue-settings/types">
          <h2>Types</h2>
          <ul class="list">
            <li v-for="(type, i) in types" :key="i" :class="{ chosen: i === at }">
              <button type="button" class="button-link name" :aria-current="i === at" @click="at = i">
                {{ type.of.name || 'without a name' }}
              </button>
              <span v-if="used('types', type.was)" class="mono quiet" title="Issues of this type">{{
                used('types', type.was)
              }}</span>
            </li>
          </ul>
          <button v-if="mayChange" type="button" class="button-link" @click="addType">
            <Plus :size="13" /> Another type
          </button>
        </section>
        <section v-if="chosen" class="type" :aria-label="`The type ${chosen.name}`">
          <div class="row">
            <label class="field"
              ><span>Name of the type</span><el-input v-model="chosen.name" maxlength="60" :disabled="!mayChange"
            /></label>
            <label class="field"
              ><span>Working days for an answer</span
              ><el-input
                :model-value="chosen.answerDays ?? ''"
                type="number"
                step="any"
                min="0"
                max="250"
                placeholder="nobody says"
                :disabled="!mayChange"
                @update:model-value="
                  chosen.answerDays = $event === '' ? null : Math.max(0, Math.min(250, Math.round(Number($event))))
                "
            /></label>
            <span class="spread" />
            <button v-if="mayChange && types.length > 1" type="button" class="button-link" @click="removeType">
              Remove this type
            </button>
          </div>
          <p>
            <b>Not raised without</b>
            <label v-for="field in REQUIRABLE_FIELDS" :key="field" class="tick"
              ><input
                type="checkbox"
                :checked="chosen.requires.includes(field)"
                @change="toggle(chosen.requires, field)"
              />
              {{ ISSUE_FIELD_WORDS[field] }}</label
            >
          </p>
          <p>
            <label class="tick"
              ><input v-model="strict" type="checkbox" /> <b>Closed only by whoever raised it or verifies it</b></label
            >
          </p>
          <table class="plain-table" aria-label="Who may take which step">
            <thead>
              <tr>
                <th>Step</th>
                <th v-for="concern in ISSUE_CONCERNS" :key="concern">{{ ISSUE_CONCERN_WORDS[concern] }}</th>
                <th>with a reason</th>
                <th>with a proof</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="action in ISSUE_ACTIONS" :key="action">
                <td>{{ STEP_WORDS[action] }}</td>
                <td v-for="concern in ISSUE_CONCERNS" :key="concern">
                  <input
                    type="checkbox"
                    :checked="chosen.steps[action].by.includes(concern)"
                    :aria-label="`${STEP_WORDS[action]}: ${ISSUE_CONCERN_WORDS[concern]}`"
                    @change="toggle(chosen.steps[action].by, concern)"
                  />
                </td>
                <td>
                  <input
                    v-model="chosen.steps[action].reason"
                    type="checkbox"
                    :aria-label="`${STEP_WORDS[action]} takes a reason`"
                  />
                </td>
                <td>
                  <input
                    v-model="chosen.steps[action].proof"
                    type="checkbox"
                    :aria-label="`${STEP_WORDS[action]} takes a proof`"
                  />
                </td>
              </tr>
            </tbody>
          </table>
          <p class="quiet">
            A proof is a version that answers the issue, or a picture or document in a comment. Issues of a type that is
            removed keep it, and follow the rules of the first type.
          </p>
        </section>
      </div>
      <div class="columns words">
        <section aria-label="Priorities">
          <h2>Priorities, the least first</h2>
          <ul class="list">
            <li v-for="(priority, i) in priorities" :key="i">
              <el-input
                v-model="priority.of.name"
                size="small"
                maxlength="60"
                :aria-label="`Priority ${i + 1}`"
                :disabled="!mayChange"
              />
              <label class="tick" title="While one is open on a version, a gate that asks for it keeps the version back"
                ><input v-model="priority.of.blocks" type="checkbox" /> blocks</label
              >
              <span class="mono quiet">{{ used('priorities', priority.was) || '' }}</span>
              <template v-if="mayChange">
                <button
                  type="button"
                  class="button-link"
                  :disabled="i === 0"
                  :aria-label="`${priority.of.name} matters less`"
                  @click="move(priorities, i, -1)"
                >
                  <ArrowUp :size="13" />
                </button>
                <button
                  type="button"
                  class="button-link"
                  :disabled="i === priorities.length - 1"
                  :aria-label="`${priority.of.name} matters more`"
                  @click="move(priorities, i, 1)"
                >
                  <ArrowDown :size="13" />
                </button>
                <button
                  v-if="priorities.length > 1"
                  type="button"
                  class="button-link"
                  :aria-label="`Remove the priority ${priority.of.name}`"
                  @click="priorities.splice(i, 1)"
                >
                  <X :size="13" />
                </button>
              </template>
            </li>
          </ul>
          <button
            v-if="mayChange"
            type="button"
            class="button-link"
            @click="priorities.push({ was: null, of: { name: '', blocks: false } })"
          >
            <Plus :size="13" /> Another priority
          </button>
        </section>
        <section aria-label="Labels">
          <h2>Labels</h2>
          <ul class="list labels">
            <li v-for="(label, i) in labels" :key="i">
              <el-input
                v-model="label.of.name"
                size="small"
                maxlength="60"
                :aria-label="`Label ${i + 1}`"
                :disabled="!mayChange"
              />
              <span class="mono quiet">{{ used('labels', label.was) || '' }}</span>
              <button
                v-if="mayChange"
                type="button"
                class="button-link"
                :aria-label="`Remove the label ${label.of.name}`"
                @click="labels.splice(i, 1)"
              >
                <X :size="13" />
              </button>
            </li>
          </ul>
          <p v-if="!labels.length" class="quiet">None yet.</p>
          <button
            v-if="mayChange"
            type="button"
            class="button-link"
            @click="labels.push({ was: null, of: { name: '' } })"
          >
            <Plus :size="13" /> Another label
          </button>
        </section>
      </div>
    </fieldset>
  </div>
</template>

<style scoped>
.all {
  border: 0;
  margin: 0;
  padding: 0;
  min-width: 0;
}
.columns {
  display: grid;
  grid-template-columns: 210px minmax(0, 860px);
  gap: 28px;
}
.words {
  grid-template-columns: minmax(0, 420px) minmax(0, 420px);
  margin-top: 26px;
}
.list {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 3px 6px;
}
li.chosen {
  background: var(--action-wash);
}
.name {
  flex: 1;
  text-align: left;
}
.type {
  overflow-x: auto;
}
.tick {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  margin-right: 14px;
  white-space: nowrap;
}
th {
  white-space: normal;
  max-width: 110px;
}
@media (max-width: 800px) {
  .columns,
  .words {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
