<script setup lang="ts">
import { changeIssue, commentIssue, showIssue, showIssuePicture } from '@kindred/contract/issues/issues';
import { downloadViewpointPicture } from '@kindred/contract/scene/scene';
import { mayChangeIssue, type IssuePart } from '@kindred/core/issues/may-change';
import { actionsIn } from '@kindred/core/platform/machine';
import { ISSUE_PRIORITIES, issueTransitions, type IssueAction } from '@kindred/core/issues/states';
import { useQuery } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed, ref, watchEffect } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import IssueClashesPanel from '../clash/IssueClashesPanel.vue';
import HistoryPanel from '../things/HistoryPanel.vue';
import { useRelated } from '../things/related.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { useSession } from '../identity/store.ts';
import { addressOf, call } from '../platform/api.ts';
import { answered, attempt } from '../platform/say.ts';
import { isOverdue, useTime } from '../platform/time.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import { ISSUE_SIGNS } from './signs.ts';
import IssuePlacePanel from './IssuePlacePanel.vue';
import { usePageSubject } from '../platform/page-title.ts';

const project = useProject();
const related = useRelated();
const time = useTime();
const route = useRoute();
const issueId = computed(() => String(route.params.issueId));
const params = computed(() => ({ ...project.params, issueId: issueId.value }));
const { data, error, refetch } = useQuery({
  key: () => [project.projectId, 'issue', issueId.value],
  query: () => call(showIssue, { params: params.value }),
});
const people = usePeople();
watchEffect(() => related.select({ type: 'issue', id: issueId.value }));

const session = useSession();
const comment = ref('');
const mayAnswer = computed(() => project.may('issues', 'add'));
function may(part: IssuePart): boolean {
  const issue = data.value?.issue;
  if (!issue || !mayAnswer.value) return false;
  const concerned = { authorId: issue.author.id, assigneeId: issue.assignee?.id ?? null };
  return mayChangeIssue(concerned, session.me?.id ?? '', project.may('issues', 'change'), part);
}
const actions = computed(() => (data.value ? actionsIn(issueTransitions, data.value.issue.status).filter(may) : []));
const picture = computed(() =>
  data.value?.viewpoint
    ? addressOf(downloadViewpointPicture, { ...project.params, viewpointId: data.value.viewpoint.id })
    : '',
);

const pictureOf = (position: number): string =>
  addressOf(showIssuePicture, { ...params.value, position: String(position) });

async function change(fields: Omit<(typeof changeIssue)['body']['static'], 'edition'>): Promise<void> {
  await attempt(() =>
    call(changeIssue, { params: params.value, body: { ...fields, edition: data.value!.issue.edition } }),
  );
  await refetch();
}
async function act(action: IssueAction): Promise<void> {
  const answer = await answered(
    ElMessageBox.prompt('Why, in a line (may stay empty)', action[0]!.toUpperCase() + action.slice(1), {
      confirmButtonText: 'Set status',
      cancelButtonText: 'Cancel',
    }),
  );
  if (answer) await change({ action, reason: answer.value ?? '' });
}
async function say(): Promise<void> {
  const said = await attempt(() => call(commentIssue, { params: params.value, body: { text: comment.value } }));
  if (said) comment.value = '';
  await refetch();
}
usePageSubject(() => data.value && `${data.value.issue.number} ${data.value.issue.title}`);
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
        <el-button v-for="action in actions" :key="action" @click="act(action)">{{
          action[0]!.toUpperCase() + action.slice(1)
        }}</el-button>
      </div>
      <div class="two">
        <section>
          <IssuePlacePanel
            :issue="data.issue"
            :viewpoint="data.viewpoint"
            :sheet="data.sheet"
            :markup="data.markup"
            :picture="picture"
          />
          <div v-if="data.pictures.length" class="pictures">
            <figure v-for="{ position, caption } in data.pictures" :key="position">
              <a :href="pictureOf(position)" target="_blank" rel="noopener"
                ><img :src="pictureOf(position)" :alt="caption || `Picture ${position}`"
              /></a>
              <figcaption class="quiet">{{ caption }}</figcaption>
            </figure>
          </div>
          <IssueClashesPanel
            :issue-id="issueId"
            :may-close="actions.includes('close')"
            @close="change({ action: 'close', reason: $event })"
          />
          <p v-if="data.issue.description" class="said">{{ data.issue.description }}</p>
          <h2>What was said</h2>
          <article v-for="item in data.comments" :key="item.id">
            <div class="row">
              <PersonBadge :person="item.author" named /><time class="quiet mono">{{ time.moment(item.at) }}</time>
            </div>
            <p class="said">{{ item.text }}</p>
          </article>
          <p v-if="!data.comments.length" class="quiet">Nothing yet.</p>
          <form v-if="mayAnswer" class="say" @submit.prevent="say">
            <el-input v-model="comment" type="textarea" :rows="2" placeholder="Say something" aria-label="Comment" />
            <el-button type="primary" native-type="submit" :disabled="!comment.trim()">Comment</el-button>
          </form>
        </section>
        <aside>
          <label class="field"
            ><span>Responsible</span
            ><PersonSelect
              :model-value="data.issue.assignee?.id ?? null"
              :members="people.members"
              :disabled="!may('assigneeId')"
              placeholder="nobody"
              @update:model-value="change({ assigneeId: ($event as string | null) || null })"
          /></label>
          <label class="field"
            ><span>Priority</span
            ><el-select
              :model-value="data.issue.priority"
              :disabled="!may('priority')"
              @update:model-value="change({ priority: $event })"
              ><el-option
                v-for="priority in ISSUE_PRIORITIES"
                :key="priority"
                :value="priority"
                :label="priority" /></el-select
          ></label>
          <label class="field"
            ><span
              >Due
              <b v-if="isOverdue(data.issue.dueOn) && data.issue.status !== 'closed'" class="sign needs-you full after"
                >overdue</b
              ></span
            ><el-date-picker
              :model-value="data.issue.dueOn ?? undefined"
              value-format="YYYY-MM-DD"
              format="D MMM YYYY"
              :disabled="!may('dueOn')"
              style="width: 100%"
              @update:model-value="change({ dueOn: $event ?? null })"
          /></label>
          <div class="field"><span>Type</span>{{ data.issue.type }}</div>
          <div class="field"><span>Raised by</span><PersonBadge :person="data.issue.author" named /></div>
          <div class="field"><span>Raised</span>{{ time.moment(data.issue.createdAt) }}</div>
          <RouterLink :to="{ name: 'issues', params: project.params }">All issues</RouterLink>
        </aside>
      </div>
      <h2>History</h2>
      <HistoryPanel type="issue" :id="issueId" />
    </template>
  </div>
</template>

<style scoped>
.pictures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  gap: 12px;
  margin-bottom: 12px;
}
.pictures figure {
  margin: 0;
}
.pictures img {
  width: 100%;
  border: 1px solid var(--hairline);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 210px;
  gap: 28px;
  margin-bottom: 20px;
}
.said {
  white-space: pre-line;
  margin: 6px 0 12px;
  overflow-wrap: anywhere;
}
article {
  border-top: 1px solid var(--hairline);
  padding: 8px 0 0;
}
.say {
  display: grid;
  gap: 8px;
  justify-items: end;
  margin-top: 8px;
}
</style>
