<script setup lang="ts">
import { changeIssue, showIssue } from '@kindred/contract/issues/issues';
import { ISSUE_ACTIONS } from '@kindred/core/issues/states';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed, ref, watchEffect } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import IssueClashesPanel from '../clash/IssueClashesPanel.vue';
import IssueChangesPanel from '../compare/IssueChangesPanel.vue';
import HistoryPanel from '../things/HistoryPanel.vue';
import { useRelated } from '../things/related.ts';
import { call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import type { IssueChanges } from './change-issues.ts';
import IssueFieldsPanel from './IssueFieldsPanel.vue';
import IssuePlacePanel from './IssuePlacePanel.vue';
import IssueTalkPanel from './IssueTalkPanel.vue';
import IssueTiesPanel from './IssueTiesPanel.vue';
import { ISSUE_SIGNS, STEP_WORDS } from './signs.ts';
import { useTakeStep } from './take-step.ts';

const project = useProject();
const related = useRelated();
const route = useRoute();
const cache = useQueryCache();
const takeStep = useTakeStep();
const issueId = computed(() => String(route.params.issueId));
const params = computed(() => ({ ...project.params, issueId: issueId.value }));
const { data, error } = useQuery({
  key: () => [project.projectId, 'issue', issueId.value],
  query: () => call(showIssue, { params: params.value }),
});
watchEffect(() => related.select({ type: 'issue', id: issueId.value }));
usePageSubject(() => data.value && `${data.value.issue.number} ${data.value.issue.title}`);

const actions = computed(() => ISSUE_ACTIONS.filter((action) => data.value?.may.includes(action)));
async function change(fields: IssueChanges): Promise<boolean> {
  const done = await attempt(() =>
    call(changeIssue, { params: params.value, body: { ...fields, edition: data.value!.issue.edition } }),
  );
  await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
  return done;
}

const writing = ref(false);
const title = ref('');
const description = ref('');
function write(): void {
  title.value = data.value!.issue.title;
  description.value = data.value!.issue.description;
  writing.value = true;
}
async function keep(): Promise<void> {
  if (await change({ title: title.value, description: description.value })) writing.value = false;
}
</script>

<template>
  <div class="page">
    <div v-if="error" class="empty"><h2>There is no such issue, or you may not see it</h2></div>
    <template v-else-if="data">
      <div class="page-head">
        <h1>
          <span class="mono quiet">{{ data.issue.number }}</span> {{ data.issue.title }}
        </h1>
        <span :class="ISSUE_SIGNS[data.issue.status]">{{ data.issue.status }}</span>
        <span class="spread" />
        <el-button
          v-for="action in actions"
          :key="action"
          :title="data.wants.proof.includes(action) ? 'Takes a proof: a version, picture or document' : undefined"
          @click="takeStep(data.issue, action)"
          >{{ STEP_WORDS[action] }}</el-button
        >
      </div>
      <div class="two">
        <section>
          <IssuePlacePanel :view="data" />
          <IssueChangesPanel :view="data" />
          <IssueClashesPanel
            :issue-id="issueId"
            :may-close="actions.includes('close')"
            @close="change({ action: 'close', reason: $event })"
          />
          <form v-if="writing" class="write" @submit.prevent="keep">
            <el-input v-model="title" maxlength="200" aria-label="Title" />
            <el-input v-model="description" type="textarea" autosize aria-label="What is asked, or wrong" />
            <div class="row">
              <el-button @click="writing = false">Cancel</el-button>
              <el-button type="primary" native-type="submit" :disabled="!title.trim()">Keep</el-button>
            </div>
          </form>
          <template v-else>
            <p v-if="data.issue.description" class="said">{{ data.issue.description }}</p>
            <p v-if="data.may.includes('title')">
              <button class="button-link" @click="write">Change title and words</button>
            </p>
          </template>
          <IssueTiesPanel :view="data" />
          <IssueTalkPanel :key="issueId" :view="data" />
        </section>
        <div>
          <IssueFieldsPanel :view="data" @change="change" />
          <RouterLink :to="{ name: 'issues', params: project.params }">All issues</RouterLink>
        </div>
      </div>
      <h2>History</h2>
      <HistoryPanel type="issue" :id="issueId" />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 230px;
  gap: 28px;
  margin-bottom: 20px;
}
.said {
  white-space: pre-line;
  margin: 6px 0 12px;
  overflow-wrap: anywhere;
}
.write {
  display: grid;
  gap: 8px;
  margin-bottom: 14px;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
