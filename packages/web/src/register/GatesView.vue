<script setup lang="ts">
import { changeGates, GATED_ACTIONS, showGates } from '@kindred/contract/register/register';
import type { Gates } from '@kindred/core/register/gates';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { useNaming } from '../naming/store.ts';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** What has to hold before a version passes from one state to the next. */
const project = useProject();
const naming = useNaming();
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'gates'],
  query: () => call(showGates, { params: project.params }),
});
const draft = ref<Gates | null>(null);
const copy = (gates: Gates): Gates => JSON.parse(JSON.stringify(gates)) as Gates;
watch(
  data,
  (now) => {
    if (now && !draft.value) draft.value = copy(now.gates);
  },
  { immediate: true },
);
const changed = computed(
  () => draft.value && data.value && JSON.stringify(draft.value) !== JSON.stringify(data.value.gates),
);
const mayChange = computed(() => project.may('register', 'manage'));
const WORDS: Record<keyof Gates, { from: string; to: string; word: string }> = {
  share: { word: 'Share', from: 'work in progress', to: 'shared' },
  publish: { word: 'Publish', from: 'shared', to: 'published' },
  archive: { word: 'Archive', from: 'shared or published', to: 'archived' },
  withdraw: { word: 'Withdraw', from: 'shared or published', to: 'the state before' },
};
const CHECKS = [
  { key: 'conformingName', word: 'The name conforms' },
  { key: 'prepared', word: 'Preparation has ended well' },
  { key: 'noBlockingIssue', word: 'No blocking issue is open on it' },
] as const;

async function save(): Promise<void> {
  const done = await attempt(() =>
    call(changeGates, { params: project.params, body: { gates: draft.value!, edition: data.value!.edition } }),
  );
  await refetch();
  if (!done) return;
  draft.value = copy(data.value!.gates);
  sayDone('The gates hold from now on. What has passed stays where it is.');
}
function discard(): void {
  draft.value = copy(data.value!.gates);
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Gates</h1>
      <span class="quiet">What has to hold before a version passes, and who may let it pass.</span>
      <span class="spread" />
      <template v-if="changed">
        <el-button @click="discard">Discard</el-button>
        <el-button type="primary" @click="save">Save the gates</el-button>
      </template>
    </div>
    <table v-if="draft" class="plain-table">
      <thead>
        <tr>
          <th>Gate</th>
          <th>Who</th>
          <th v-for="check in CHECKS" :key="check.key">{{ check.word }}</th>
          <th style="width: 20%">Status codes that fit</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="action in GATED_ACTIONS" :key="action">
          <td>
            <b>{{ WORDS[action].word }}</b><br /><span class="quiet way"
              >{{ WORDS[action].from }} → {{ WORDS[action].to }}</span
            >
          </td>
          <td>
            <el-select
              v-model="draft[action].right"
              size="small"
              style="width: 252px"
              :disabled="!mayChange"
              :aria-label="`Who may ${action}`"
            >
              <el-option value="change" label="Its team, with the right to change" />
              <el-option value="manage" label="Those who manage the register" />
            </el-select>
          </td>
          <td v-for="check in CHECKS" :key="check.key">
            <el-checkbox
              v-model="draft[action][check.key]"
              :disabled="!mayChange"
              :aria-label="`${WORDS[action].word}: ${check.word}`"
            />
          </td>
          <td>
            <el-select
              v-model="draft[action].statuses"
              multiple
              filterable
              default-first-option
              size="small"
              placeholder="Any"
              :disabled="!mayChange"
              :aria-label="`Status codes that fit to ${action}`"
              ><el-option v-for="code in naming.naming?.statuses" :key="code.code" :value="code.code" :label="code.code"
                ><span class="mono">{{ code.code }}</span> {{ code.meaning }}</el-option
              ></el-select
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.way {
  white-space: nowrap;
}
</style>
