<script setup lang="ts">
/** The place of an issue: its picture leads into the scene, its point onto the sheet. */
import type { IssueView } from '@kindred/contract/issues/issues';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{
  issue: IssueView['issue'];
  viewpoint: IssueView['viewpoint'];
  sheet: IssueView['sheet'];
  markup: IssueView['markup'];
  picture: string;
}>();
const project = useProject();
/** On the version that it was raised on. */
const sheetQuery = computed(() => ({
  version: String(props.sheet?.versionNumber ?? ''),
  page: String(props.issue.place?.page ?? 1),
}));
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
        params: { ...project.params, containerId: sheet.containerId },
        query: { ...sheetQuery, at },
      }"
      >Open on sheet {{ sheet.code }}, exactly here</RouterLink
    >
    <RouterLink
      v-if="markup"
      :to="{
        name: 'sheets',
        params: { ...project.params, containerId: sheet.containerId },
        query: { ...sheetQuery, markup: markup.id },
      }"
      >Markup {{ markup.number }} “{{ markup.text }}”</RouterLink
    >
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
