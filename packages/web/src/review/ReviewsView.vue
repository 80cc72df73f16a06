<script setup lang="ts">
import { listReviews, type Review } from '@kindred/contract/review/review';
import { Stamp } from '@lucide/vue';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import PersonBadge from '../platform/PersonBadge.vue';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { takeHandedOver } from '../platform/handed-over.ts';
import { day, isOverdue, useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import StartReviewDialog from './StartReviewDialog.vue';
import { useRouteQuery } from '../platform/route-query.ts';

const project = useProject();
const session = useSession();
const related = useRelated();
const time = useTime();
const { query } = useRouteQuery();
const router = useRouter();
const {
  items: reviews,
  loaded,
  hasMore,
  more,
} = usePages(
  () => [project.projectId, 'review'],
  (after) => call(listReviews, { params: project.params, query: { ...(after && { after }) } }),
);
const preset = computed(() => takeHandedOver(query('start')));
const starting = ref(preset.value.length > 0);
const mine = (review: Review): boolean =>
  review.reviewers.some(
    ({ step, person, finishedAt }) => step === review.currentStep && person.id === session.me?.id && !finishedAt,
  );
useFirstAsSelected('review', reviews);
const open = (reviewId: string) => router.push({ name: 'review', params: { ...project.params, reviewId } });
function close(): void {
  starting.value = false;
  void router.replace({ query: {} });
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Reviews</h1>
      <span class="spread" />
      <el-button v-if="project.may('review', 'add')" type="primary" @click="starting = true"
        ><Stamp :size="15" style="margin-right: 5px" /> Start a review</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !reviews.length" title="No review yet"
      >Choose documents in the register and put them on a review route; the answer comes back to whoever delivered
      them.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th class="right">No.</th>
          <th>Review</th>
          <th>Documents</th>
          <th>Route</th>
          <th>With</th>
          <th>Due</th>
          <th>Answer</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="review in reviews"
          :key="review.id"
          class="clickable"
          tabindex="0"
          @click="open(review.id)"
          @keydown.enter="open(review.id)"
          @mouseenter="related.select({ type: 'review', id: review.id })"
        >
          <td class="mono right">{{ review.number }}</td>
          <td>
            <b>{{ review.title }}</b> <span v-if="mine(review)" class="sign needs-you full after">your turn</span>
            <br /><span class="quiet">{{ review.originator.name }}, {{ time.short(review.startedAt) }}</span>
          </td>
          <td>
            <div v-for="document in review.documents.slice(0, 3)" :key="document.versionId" class="mono">
              {{ document.code }} <span class="quiet">{{ document.revision }}</span>
            </div>
            <span v-if="review.documents.length > 3" class="quiet">and {{ review.documents.length - 3 }} more</span>
          </td>
          <td>{{ review.routeName }}</td>
          <td>
            <PersonBadge
              v-for="reviewer in review.reviewers.filter(
                ({ step, finishedAt }) => step === review.currentStep && !finishedAt,
              )"
              :key="reviewer.id"
              :person="reviewer.person"
            />
          </td>
          <td style="white-space: nowrap">
            <span v-if="review.dueOn" :class="isOverdue(review.dueOn) ? 'sign needs-you' : ''"
              >{{ day(review.dueOn) }}{{ isOverdue(review.dueOn) ? ', overdue' : '' }}</span
            >
          </td>
          <td>
            <span v-if="review.code" class="sign formal full"
              ><b class="mono">{{ review.code }}</b> {{ review.codeMeaning }}</span
            ><span v-else class="quiet">{{ review.status }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <MoreRows :has-more="hasMore" @more="more" />
    <StartReviewDialog v-if="starting" :version-ids="preset" @close="close" />
  </div>
</template>
