<script setup lang="ts">
import { downloadViewpointPicture, listViewpoints } from '@kindred/contract/scene/scene';
import { RouterLink } from 'vue-router';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import PersonBadge from '../platform/PersonBadge.vue';
import MoreRows from '../platform/MoreRows.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const project = useProject();
const related = useRelated();
const time = useTime();
const {
  items: viewpoints,
  loaded,
  hasMore,
  more,
} = usePages(
  () => [project.projectId, 'viewpoint'],
  (after) => call(listViewpoints, { params: project.params, query: { ...(after && { after }) } }),
);
useFirstAsSelected('viewpoint', viewpoints);
const picture = (viewpointId: string): string =>
  addressOf(downloadViewpointPicture, { ...project.params, viewpointId });
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Viewpoints</h1></div>
    <EmptyPlace v-if="loaded && !viewpoints.length" title="No viewpoint yet"
      >Save one in the scene: camera, section, visibility and selection come back exactly.</EmptyPlace
    >
    <div class="grid">
      <RouterLink
        v-for="viewpoint in viewpoints"
        :key="viewpoint.id"
        :to="{ name: 'scene', params: project.params, query: { viewpoint: viewpoint.id } }"
        @mouseenter="related.select({ type: 'viewpoint', id: viewpoint.id })"
      >
        <img :src="picture(viewpoint.id)" :alt="viewpoint.name" loading="lazy" />
        <b>{{ viewpoint.name }}</b>
        <span class="row quiet"
          ><PersonBadge :person="viewpoint.author" /> {{ time.date(viewpoint.createdAt) }},
          {{ viewpoint.versionIds.length }} {{ viewpoint.versionIds.length === 1 ? 'model' : 'models' }}</span
        >
      </RouterLink>
    </div>
    <MoreRows :has-more="hasMore" @more="more" />
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  gap: 18px;
}
a {
  display: grid;
  gap: 5px;
  color: var(--ink);
}
a:hover {
  text-decoration: none;
}
img {
  width: 100%;
  aspect-ratio: 3 / 2;
  object-fit: cover;
  background: #eeebe2;
  border: 1px solid var(--hairline);
}
a:hover img {
  border-color: var(--action);
}
</style>
