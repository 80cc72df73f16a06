<script setup lang="ts">
import type { Member } from '@kindred/contract/people/people';
import { listReviewRoutes, startReview } from '@kindred/contract/review/review';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import ChooseVersionsDialog from '../register/ChooseVersionsDialog.vue';

defineProps<{ versionIds: string[] }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const router = useRouter();
const cache = useQueryCache();
const { data: offer } = useQuery({
  key: () => [project.projectId, 'review-route'],
  query: () => call(listReviewRoutes, { params: project.params }),
});
const people = usePeople();
const title = ref('');
const chosen = ref<string[]>([]);
const routeId = ref('');
const reviewers = ref<string[][]>([]);
const route = computed(() => offer.value?.routes.find(({ id }) => id === routeId.value));
watch(offer, (loaded) => void (routeId.value ||= loaded?.routes.find(({ steps }) => steps.length === 1)?.id ?? ''), {
  immediate: true,
});
watch(route, (chosenRoute) => void (reviewers.value = chosenRoute?.steps.map(() => []) ?? []));
const complete = computed(
  () =>
    title.value.trim() !== '' &&
    chosen.value.length > 0 &&
    reviewers.value.length > 0 &&
    reviewers.value.every((list) => list.length),
);

/** People with the role that the step names come first. */
function candidates(roleId: string | null) {
  const rank = (member: { roles: { id: string }[] }) => (member.roles.some(({ id }) => id === roleId) ? 0 : 1);
  return [...people.members].sort((a, b) => rank(a) - rank(b) || a.person.name.localeCompare(b.person.name));
}
const rolesOf = ({ roles }: Member): string => roles.map(({ name }) => name).join(', ');

async function start(): Promise<void> {
  const review = await call(startReview, {
    params: project.params,
    body: { title: title.value, routeId: routeId.value, versionIds: chosen.value, reviewers: reviewers.value },
  });
  await cache.invalidateQueries({ key: [project.projectId, 'review'] });
  await router.push({ name: 'review', params: { ...project.params, reviewId: review.id } });
}
</script>

<template>
  <FormDialog
    title="Start a review"
    verb="Start review"
    :width="620"
    :ready="complete"
    :run="start"
    @close="emit('close')"
  >
    <label class="field"><span>Title</span><el-input v-model="title" maxlength="200" autofocus /></label>
    <div class="field">
      <span>Documents</span><ChooseVersionsDialog v-model="chosen" :preset="versionIds" shared-only />
    </div>
    <label class="field"
      ><span>Route</span
      ><el-select v-model="routeId"
        ><el-option v-for="item in offer?.routes" :key="item.id" :value="item.id" :label="item.name" /></el-select
    ></label>
    <label v-for="(step, i) in route?.steps" :key="i" class="field"
      ><span>{{ step.name }}: {{ step.roleName }}, {{ step.days }} working days</span
      ><PersonSelect
        v-model="reviewers[i]!"
        multiple
        :members="candidates(step.roleId)"
        :note="rolesOf"
        placeholder="at least one person"
    /></label>
  </FormDialog>
</template>
