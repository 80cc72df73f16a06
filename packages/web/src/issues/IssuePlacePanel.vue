<script setup lang="ts">
/** The place of an issue: its picture leads into the scene, its point onto the sheet. */
import type { Issue } from '@kindred/contract/issues/issues';
import type { Viewpoint } from '@kindred/contract/scene/scene';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { listRelated } from '@kindred/contract/things/things';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ issue: Issue; viewpoint: Viewpoint | null; picture: string }>();
const project = useProject();
const { data: around } = useQuery({
  key: () => [project.projectId, 'related', 'issue', props.issue.id],
  query: () => call(listRelated, { params: project.params, query: { type: 'issue', id: props.issue.id } }),
  enabled: () => props.issue.place !== null,
});
const sheet = computed(() => around.value?.items.find(({ type }) => type === 'container'));
const markup = computed(() => around.value?.items.find(({ type }) => type === 'markup'));
const ZOOM = 1.2;
const at = computed(() =>
  props.issue.place
    ? `${(420 - props.issue.place.x * ZOOM).toFixed(1)},${(300 - props.issue.place.y * ZOOM).toFixed(1)},${ZOOM}`
    : '',
);
</script>

<template>
  <RouterLink
    v-if="viewpoint"
    class="place"
    :to="{ name: 'scene', params: project.params, query: { viewpoint: viewpoint.id, issue: issue.id } }"
  >
    <img :src="picture" :alt="viewpoint.name" />
    <span>Open in the scene, exactly here</span>
  </RouterLink>
  <p v-else-if="issue.place && sheet" class="row">
    <RouterLink
      :to="{
        name: 'sheets',
        params: { ...project.params, containerId: sheet.id },
        query: { page: String(issue.place.page), at },
      }"
      >Open on sheet {{ sheet.title }}, exactly here</RouterLink
    >
    <RouterLink v-if="markup" :to="markup.link">Markup “{{ markup.title }}”</RouterLink>
  </p>
  <p v-else-if="issue.viewpointId" class="quiet">The models of this issue's viewpoint are not shared with you.</p>
</template>

<style scoped>
.place {
  display: block;
  position: relative;
  border: 1px solid var(--hairline);
  margin-bottom: 12px;
}
.place img {
  display: block;
  width: 100%;
  max-height: 300px;
  object-fit: cover;
  background: #ebe8df;
}
.place span {
  position: absolute;
  left: 0;
  bottom: 0;
  background: var(--action);
  color: #fff;
  padding: 5px 10px;
}
</style>
