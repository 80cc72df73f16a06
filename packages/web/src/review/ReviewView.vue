<script setup lang="ts">
import { commentReview, finishReview, listReviewRoutes, showReview } from '@kindred/contract/review/review';
import { finishingProblem } from '@kindred/core/review/rules';
import { finishingProblem as finishingWords } from '@kindred/words/register';
import { useQuery } from '@pinia/colada';
import { computed, ref, watchEffect } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import HistoryPanel from '../things/HistoryPanel.vue';
import { useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import VersionChangesPanel from '../compare/VersionChangesPanel.vue';
import PersonBadge from '../platform/PersonBadge.vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { day, isOverdue, useTime } from '../platform/time.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import { useProject } from '../portfolio/store.ts';
import { usePageSubject } from '../platform/page-title.ts';

const project = useProject();
const raising = ref(false);
const session = useSession();
const related = useRelated();
const time = useTime();
const route = useRoute();
const reviewId = computed(() => String(route.params.reviewId));
const params = computed(() => ({ ...project.params, reviewId: reviewId.value }));
const { data, error, refetch } = useQuery({
  key: () => [project.projectId, 'review', reviewId.value],
  query: () => call(showReview, { params: params.value }),
});
const { data: offer } = useQuery({
  key: () => [project.projectId, 'review-route'],
  query: () => call(listReviewRoutes, { params: project.params }),
});
watchEffect(() => related.select({ type: 'review', id: reviewId.value }));

const text = ref('');
const about = ref('');
const code = ref('');
const review = computed(() => data.value?.review);
const myTurn = computed(
  () =>
    review.value?.reviewers.some(
      ({ step, person, finishedAt }) =>
        step === review.value!.currentStep && person.id === session.me?.id && !finishedAt,
    ) ?? false,
);
const mine = computed(() => (data.value?.comments ?? []).filter(({ author }) => author.id === session.me?.id).length);
const chosen = computed(() => offer.value?.codes.find((item) => item.code === code.value));
const wordsFor = (problem: ReturnType<typeof finishingProblem>) => problem && finishingWords(problem);
const problem = computed(() =>
  wordsFor(chosen.value && finishingProblem(chosen.value.code, chosen.value.rules, mine.value)),
);
const documentOf = (versionId: string) => review.value?.documents.find((item) => item.versionId === versionId);
const linkOf = (document: { containerId: string; kind: string; versionId: string; versionNumber: number }) =>
  document.kind === 'model'
    ? { name: 'scene', params: project.params, query: { models: document.versionId } }
    : {
        name: 'sheets',
        params: { ...project.params, containerId: document.containerId },
        query: { version: String(document.versionNumber) },
      };

async function say(): Promise<void> {
  const said = await attempt(() =>
    call(commentReview, {
      params: params.value,
      body: { versionId: about.value || review.value!.documents[0]!.versionId, text: text.value },
    }),
  );
  if (said) text.value = '';
  await refetch();
}
async function finish(): Promise<void> {
  const done = await attempt(() => call(finishReview, { params: params.value, body: { code: code.value } }));
  if (done) sayDone('Your part is finished.');
  await refetch();
}
usePageSubject(() => review.value && `${review.value.number} ${review.value.title}`);
</script>

<template>
  <div class="page">
    <div v-if="error" class="empty"><h2>There is no such review, or you may not see it</h2></div>
    <template v-else-if="review && data">
      <div class="page-head">
        <h1>
          <span class="mono quiet">{{ review.number }}</span> {{ review.title }}
        </h1>
        <span v-if="review.code" class="sign formal full"
          ><b class="mono">{{ review.code }}</b> {{ review.codeMeaning }}</span
        >
        <span v-else class="sign info">{{ review.status }}</span>
        <span class="spread" />
        <el-button v-if="project.may('issues', 'add')" @click="raising = true">Raise issue</el-button>
      </div>
      <div class="two">
        <section>
          <h2>Documents</h2>
          <table class="plain-table" style="margin: 6px 0 18px">
            <tbody>
              <tr v-for="document in review.documents" :key="document.versionId">
                <td>
                  <RouterLink class="mono" :to="linkOf(document)">{{ document.code }}</RouterLink>
                </td>
                <td>{{ document.title }}</td>
                <td class="mono">{{ document.revision }}</td>
                <td class="quiet">version {{ document.versionNumber }}</td>
                <td>
                  <VersionChangesPanel
                    v-if="document.kind === 'drawing' || document.kind === 'model'"
                    :container-id="document.containerId"
                    :version-id="document.versionId"
                  />
                </td>
              </tr>
            </tbody>
          </table>
          <h2>Comments</h2>
          <article v-for="comment in data.comments" :key="comment.id">
            <div class="row">
              <PersonBadge :person="comment.author" named /><span class="mono quiet">{{
                documentOf(comment.versionId)?.code
              }}</span
              ><span class="spread" /><time class="mono quiet">{{ time.moment(comment.at) }}</time>
            </div>
            <p class="said">{{ comment.text }}</p>
          </article>
          <p v-if="!data.comments.length" class="quiet">None yet.</p>
          <form v-if="myTurn" class="say" @submit.prevent="say">
            <el-select
              v-if="review.documents.length > 1"
              v-model="about"
              :placeholder="review.documents[0]!.code"
              aria-label="Which document"
              ><el-option
                v-for="document in review.documents"
                :key="document.versionId"
                :value="document.versionId"
                :label="`${document.code} ${document.title}`"
            /></el-select>
            <el-input
              v-model="text"
              type="textarea"
              :rows="2"
              placeholder="What has to change, or what you saw"
              aria-label="Review comment"
            />
            <div class="right"><el-button native-type="submit" :disabled="!text.trim()">Add comment</el-button></div>
          </form>
        </section>
        <aside>
          <h2>{{ review.routeName }}</h2>
          <ol class="steps">
            <li
              v-for="reviewer in review.reviewers"
              :key="reviewer.id"
              :class="{ now: reviewer.step === review.currentStep }"
            >
              <small class="quiet">{{ reviewer.step + 1 }} {{ reviewer.stepName }}</small>
              <PersonBadge :person="reviewer.person" named />
              <span v-if="reviewer.code" class="sign formal">{{ reviewer.code }}</span>
              <span
                v-else-if="review.status === 'under review' && reviewer.dueOn"
                :class="isOverdue(reviewer.dueOn) ? 'sign needs-you' : 'quiet'"
                >until {{ day(reviewer.dueOn) }}</span
              >
              <span v-else class="quiet">not reached</span>
            </li>
          </ol>
          <div class="field"><span>Started by</span><PersonBadge :person="review.originator" named /></div>
          <form v-if="myTurn" class="finish" @submit.prevent="finish">
            <h2>Finish your part</h2>
            <el-select v-model="code" placeholder="Return code" aria-label="Return code"
              ><el-option
                v-for="item in offer?.codes"
                :key="item.id"
                :value="item.code"
                :label="`${item.code} ${item.meaning}`"
                ><b class="mono">{{ item.code }}</b> {{ item.meaning }}</el-option
              ></el-select
            >
            <p v-if="problem" class="sign needs-you full problem" role="alert">{{ problem }}</p>
            <el-button type="primary" native-type="submit" :disabled="!code"
              >Finish with {{ code || 'a code' }}</el-button
            >
          </form>
        </aside>
      </div>
      <h2>History</h2>
      <HistoryPanel type="review" :id="reviewId" />
      <RaiseIssueDialog
        v-if="raising"
        :about="review.title"
        :things="[{ type: 'review', id: review.id }]"
        @close="raising = false"
      />
    </template>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 250px;
  gap: 28px;
  margin-bottom: 20px;
}
article {
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
}
.said {
  margin: 5px 0 10px;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.say,
.finish {
  display: grid;
  gap: 8px;
  margin-top: 8px;
}
.finish {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
.problem {
  white-space: normal;
  margin: 0;
}
.steps {
  list-style: none;
  margin: 8px 0 14px;
  padding: 0;
}
.steps li {
  display: grid;
  gap: 2px;
  padding: 7px 10px;
  border-left: 3px solid var(--hairline);
}
.steps li.now {
  border-color: var(--action);
}
</style>
