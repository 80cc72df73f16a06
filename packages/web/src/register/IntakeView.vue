<script setup lang="ts">
import { checkName } from '@kindred/core/naming/convention';
import { addNamingValue } from '@kindred/contract/naming/naming';
import { listContainers, repairName, type Container } from '@kindred/contract/register/register';
import { useQuery } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, reactive } from 'vue';
import { useFirstAsKin, useKin } from '../frame/kin.ts';
import NameVerdict from '../naming/NameVerdict.vue';
import { useNaming } from '../naming/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const project = useProject();
const naming = useNaming();
const kin = useKin();
const time = useTime();
const codes = reactive<Record<string, string>>({});
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'container', 'intake'],
  query: () => call(listContainers, { params: project.params, query: { intake: true, limit: 200 } }),
});
const waiting = computed(() => data.value?.items);
useFirstAsKin('container', waiting);
function verdict(container: Container) {
  const convention = naming.conventionIn(container.folderId);
  return convention ? checkName(convention, codeOf(container)) : null;
}

const codeOf = (container: Container): string => codes[container.id] ?? container.code;
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

async function repair(container: Container): Promise<void> {
  const done = await attempt(() =>
    call(repairName, {
      params: { ...project.params, containerId: container.id },
      body: { code: codeOf(container) },
    }),
  );
  if (!done) return;
  sayDone(`${codeOf(container)} is in the register.`);
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
    </div>
    <EmptyPlace v-if="data && !data.items.length" title="Nobody waits here"
      >Every name conforms. Files with other names come here, to be repaired.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>As delivered</th>
          <th>By</th>
          <th style="width: 45%">Name and verdict</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="container in data?.items"
          :key="container.id"
          @click="kin.select({ type: 'container', id: container.id })"
        >
          <td>
            <b class="mono">{{ container.fileName }}</b><br /><span class="quiet">{{ container.title }}</span>
          </td>
          <td>
            {{ container.deliveredBy }}<br /><span class="quiet">{{ time.moment(container.deliveredAt) }}</span>
          </td>
          <td>
            <el-input
              :model-value="codeOf(container)"
              class="mono"
              size="small"
              :aria-label="`New code for ${container.code}`"
              @update:model-value="codes[container.id] = $event"
            />
            <NameVerdict v-if="verdict(container)" :verdict="verdict(container)!" style="margin-top: 4px" />
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
          </td>
          <td class="right">
            <el-button
              v-if="project.may('register', 'manage')"
              type="primary"
              size="small"
              :disabled="!verdict(container)?.ok"
              @click="repair(container)"
              >To the register</el-button
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
