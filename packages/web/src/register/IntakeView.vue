<script setup lang="ts">
import { addNamingValue } from '@kindred/contract/naming/naming';
import { discardIntake, listContainers, repairNames, type Container } from '@kindred/contract/register/register';
import { checkName, nearestName } from '@kindred/core/naming/convention';
import { useQuery } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, reactive, ref, watch } from 'vue';
import { useFirstAsKin, useKin } from '../frame/kin.ts';
import ComposeName from '../naming/ComposeName.vue';
import NameVerdict from '../naming/NameVerdict.vue';
import { useNaming } from '../naming/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone, sayProblem } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';

/** Files with names that do not conform: many are repaired at once, the right ones go, the others say why they stay. */
interface Repair {
  code: string;
  title: string;
  status: string;
  revision: string;
  classification: string;
  folderId: string;
  asVersion: boolean;
  problem: string;
}
const project = useProject();
const naming = useNaming();
const folders = useFolders();
const kin = useKin();
const time = useTime();
const repairs = reactive<Record<string, Repair>>({});
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'container', 'intake'],
  query: () => call(listContainers, { params: project.params, query: { intake: true, limit: 200 } }),
});
const waiting = computed(() => data.value?.items ?? []);
useFirstAsKin('container', waiting);
watch(
  waiting,
  (list) => {
    for (const { id, code, title, status, revision, classification, folderId } of list)
      repairs[id] ??= { code, title, status, revision, classification, folderId, asVersion: false, problem: '' };
  },
  { immediate: true },
);

const mayRepair = computed(() => project.may('register', 'manage'));
function verdict({ id, folderId }: Container) {
  const convention = naming.conventionIn(repairs[id]?.folderId ?? folderId);
  return convention ? checkName(convention, repairs[id]?.code ?? '') : null;
}
/** The name with the nearest allowed values, where there is one for each that is wrong. */
function nearest(container: Container): string | undefined {
  const convention = naming.conventionIn(repairs[container.id]?.folderId ?? container.folderId);
  const judged = verdict(container);
  return convention && judged && mayRepair.value ? nearestName(convention, judged) : undefined;
}
const repairable = computed(() => waiting.value.filter(nearest));
function takeNearest(): void {
  for (const container of repairable.value) repairs[container.id]!.code = nearest(container)!;
}
const ready = computed(() => waiting.value.filter((container) => verdict(container)?.ok));

/** Values that the convention would have to take so that the name conforms, where all else is right. */
function missingValues(container: Container): { field: string; code: string }[] {
  const judged = verdict(container);
  const fields = naming.conventionIn(container.folderId)?.fields ?? [];
  const isList = (name: string): boolean => fields.some((field) => field.name === name && field.kind === 'list');
  if (!judged || judged.problem) return [];
  return judged.fields
    .filter(({ ok, value, field }) => !ok && value && isList(field))
    .map(({ field, value }) => ({ field, code: value }));
}
async function allow(container: Container, { field, code }: { field: string; code: string }): Promise<void> {
  const answer = await ElMessageBox.prompt(`What does “${code}” mean in ${field}?`, 'Allow a new value', {
    confirmButtonText: `Allow ${code}`,
    cancelButtonText: 'Leave it',
  }).catch(() => null);
  if (!answer) return;
  const params = { ...project.params, conventionId: naming.conventionHolding(container.folderId)!.id };
  const done = await attempt(() =>
    call(addNamingValue, { params, body: { field, code, meaning: (answer.value ?? '').trim() } }),
  );
  if (done) await naming.refetch();
}

const saving = ref(false);
async function repair(list: Container[]): Promise<void> {
  saving.value = true;
  try {
    const outcomes = await call(repairNames, {
      params: project.params,
      body: {
        repairs: list.map(({ id }) => {
          const { problem: _problem, code, ...rest } = repairs[id]!;
          void _problem;
          return { containerId: id, code: code.trim(), ...rest };
        }),
      },
    });
    outcomes.forEach(({ problem }, i) => (repairs[list[i]!.id]!.problem = problem ?? ''));
    const gone = outcomes.filter(({ problem }) => !problem).length;
    const stay = outcomes.length - gone;
    const who = outcomes.length === 1 ? outcomes[0]!.code : `${gone} ${gone === 1 ? 'file' : 'files'}`;
    if (gone)
      sayDone(`${who} ${gone === 1 ? 'is' : 'are'} in the register.${stay ? ` ${stay} stay here and say why.` : ''}`);
    await refetch();
  } catch (error) {
    sayProblem(error);
  } finally {
    saving.value = false;
  }
}
const isTaken = ({ id }: Container): boolean => repairs[id]?.problem.includes('in the register already') ?? false;
async function asVersion(container: Container): Promise<void> {
  repairs[container.id]!.asVersion = true;
  await repair([container]);
}
async function discard(container: Container): Promise<void> {
  const sure = await ElMessageBox.confirm(
    `“${container.fileName}” was never part of the register. Taking it away cannot be undone.`,
    'Take it away for good',
    { confirmButtonText: 'Take it away', cancelButtonText: 'Leave it' },
  ).catch(() => null);
  if (!sure) return;
  await attempt(() => call(discardIntake, { params: { ...project.params, containerId: container.id } }));
  await refetch();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Intake</h1>
      <span class="quiet"
        >Files whose names do not conform wait here, seen only by whoever delivered them and those who manage the
        register.</span
      >
      <span class="spread" />
      <el-button v-if="repairable.length > 1" @click="takeNearest">Take the nearest values</el-button>
      <el-button
        v-if="mayRepair && waiting.length > 1"
        type="primary"
        :disabled="!ready.length"
        :loading="saving"
        @click="repair(ready)"
        >{{ ready.length }} {{ ready.length === 1 ? 'file' : 'files' }} to the register</el-button
      >
    </div>
    <EmptyPlace v-if="data && !waiting.length" title="Nobody waits here"
      >Every name conforms. Files with other names come here, to be repaired.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th style="width: 23%">As delivered</th>
          <th>Name, its verdict, and where it goes</th>
          <th style="width: 120px"></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="container in waiting"
          :key="container.id"
          @click="kin.select({ type: 'container', id: container.id })"
        >
          <td>
            <b class="mono file">{{ container.fileName }}</b><br />{{ container.deliveredBy }}<br /><span
              class="quiet"
              >{{ time.moment(container.deliveredAt) }}</span
            >
          </td>
          <td v-for="wanted in [repairs[container.id]]" :key="wanted?.folderId">
            <template v-if="wanted">
              <div class="row">
                <el-input
                  v-model="wanted.code"
                  class="mono"
                  size="small"
                  :disabled="!mayRepair"
                  :aria-label="`New code for ${container.code}`"
                />
                <ComposeName
                  v-if="mayRepair"
                  v-model="wanted.code"
                  :convention="naming.conventionIn(wanted.folderId)"
                />
                <el-input v-if="mayRepair" v-model="wanted.title" size="small" placeholder="Title" aria-label="Title" />
              </div>
              <NameVerdict v-if="verdict(container)" :verdict="verdict(container)!" style="margin-top: 4px" />
              <button
                v-if="nearest(container)"
                class="button-link"
                title="Take the nearest allowed values"
                @click.stop="wanted.code = nearest(container)!"
              >
                Use <span class="mono">{{ nearest(container) }}</span>
              </button>
              <p v-if="wanted.problem" class="sign needs-you full problem">{{ wanted.problem }}</p>
              <div v-if="mayRepair" class="row values">
                <el-select
                  v-model="wanted.status"
                  size="small"
                  placeholder="Status"
                  style="width: 78px; flex: none"
                  aria-label="Status"
                  ><el-option
                    v-for="code in naming.naming?.statuses"
                    :key="code.code"
                    :value="code.code"
                    :label="code.code"
                    ><span class="mono">{{ code.code }}</span> {{ code.meaning }}</el-option
                  ></el-select
                >
                <el-input
                  v-model="wanted.revision"
                  size="small"
                  style="width: 62px; flex: none"
                  class="mono"
                  placeholder="Rev"
                  aria-label="Revision"
                />
                <el-input
                  v-model="wanted.classification"
                  size="small"
                  style="width: 76px; flex: none"
                  class="mono"
                  placeholder="Class"
                  aria-label="Classification"
                />
                <el-select
                  v-model="wanted.folderId"
                  size="small"
                  filterable
                  style="width: 170px; flex: none"
                  aria-label="Folder"
                  ><el-option v-for="folder in folders.list" :key="folder.id" :value="folder.id" :label="folder.path"
                /></el-select>
              </div>
              <template v-if="project.may('naming', 'change')">
                <button
                  v-for="value in missingValues(container)"
                  :key="value.field"
                  class="button-link"
                  style="margin-right: 14px"
                  @click.stop="allow(container, value)"
                >
                  Allow “{{ value.code }}” in {{ value.field }}
                </button>
              </template>
            </template>
          </td>
          <td class="right">
            <div class="acts">
              <el-button
                v-if="mayRepair"
                :type="waiting.length > 1 ? '' : 'primary'"
                size="small"
                :disabled="!verdict(container)?.ok || saving"
                @click="repair([container])"
                >To the register</el-button
              >
              <button v-if="isTaken(container)" class="button-link" @click="asVersion(container)">
                Make it the next version
              </button>
              <button class="button-link quiet" @click.stop="discard(container)">Take away</button>
            </div>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.file {
  overflow-wrap: anywhere;
}
.values {
  margin: 5px 0 3px;
}
.problem {
  margin: 3px 0;
  white-space: normal;
}
.acts {
  display: grid;
  gap: 6px;
  justify-items: end;
}
</style>
