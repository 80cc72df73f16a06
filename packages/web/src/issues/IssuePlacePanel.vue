<script setup lang="ts">
/** The place of an issue: its picture leads into the scene, onto the sheet, or to the file, exactly there. */
import type { IssueView } from '@kindred/contract/issues/issues';
import { showIssuePicture } from '@kindred/contract/issues/issues';
import { downloadViewpointPicture } from '@kindred/contract/scene/scene';
import { computed } from 'vue';
import { RouterLink, type RouteLocationRaw } from 'vue-router';
import { TAKEN } from './marking.ts';
import { around } from '../drawing/place-picture.ts';
import { writeView } from '../drawing/table/view.ts';
import { addressOf } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ view: IssueView }>();
const project = useProject();
const ZOOM = 1.2;
const WINDOW = [840, 600] as const;

const pictureOf = (position: number): string =>
  addressOf(showIssuePicture, { ...project.params, issueId: props.view.issue.id, position: String(position) });
/** The one that was taken where it was raised; of several that belong together none stands out. */
const taken = computed(() => {
  const { pictures } = props.view;
  return pictures.find(({ caption }) => caption === TAKEN) ?? (pictures.length === 1 ? pictures[0] : undefined);
});
const picture = computed(() => {
  if (taken.value) return pictureOf(taken.value.position);
  const { viewpoint } = props.view;
  return viewpoint ? addressOf(downloadViewpointPicture, { ...project.params, viewpointId: viewpoint.id }) : '';
});
const others = computed(() => props.view.pictures.filter((one) => one !== taken.value));
const target = computed((): { to: RouteLocationRaw; word: string } | undefined => {
  const { viewpoint, sheet, issue } = props.view;
  if (viewpoint)
    return {
      to: { name: 'scene', params: project.params, query: { viewpoint: viewpoint.id, issue: issue.id } },
      word: 'Open in the scene, exactly here',
    };
  if (!issue.place || !sheet) return undefined;
  const params = { ...project.params, containerId: sheet.containerId };
  if (issue.place.page === null)
    return { to: { name: 'container', params }, word: `Open ${sheet.code}, version ${sheet.versionNumber}` };
  const { x, y, zoom, page } = issue.place;
  const at = writeView(around([x, y], zoom ?? ZOOM, WINDOW));
  return {
    to: { name: 'sheets', params, query: { version: String(sheet.versionNumber), page: String(page), at } },
    word: `Open on sheet ${sheet.code}, exactly here`,
  };
});
</script>

<template>
  <div class="places">
    <RouterLink v-if="target" class="place" :class="{ bare: !picture }" :to="target.to">
      <img v-if="picture" :src="picture" :alt="view.viewpoint?.name ?? 'As it was raised'" />
      <span>{{ target.word }}</span>
    </RouterLink>
    <a v-else-if="picture" :href="picture" target="_blank" rel="noopener" class="place"
      ><img :src="picture" alt="As it was raised"
    /></a>
    <p v-if="view.markup && view.sheet">
      <RouterLink
        :to="{
          name: 'sheets',
          params: { ...project.params, containerId: view.sheet.containerId },
          query: {
            version: String(view.sheet.versionNumber),
            page: String(view.issue.place?.page ?? 1),
            markup: view.markup.id,
          },
        }"
        >Markup {{ view.markup.number }} “{{ view.markup.text }}”</RouterLink
      >
    </p>
    <div v-if="others.length" class="others">
      <figure v-for="{ position, caption } in others" :key="position">
        <a :href="pictureOf(position)" target="_blank" rel="noopener"
          ><img :src="pictureOf(position)" :alt="caption || `Picture ${position}`"
        /></a>
        <figcaption class="quiet">{{ caption }}</figcaption>
      </figure>
    </div>
  </div>
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
  max-height: 340px;
  object-fit: contain;
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
.place.bare {
  width: max-content;
  max-width: 100%;
}
.place.bare span {
  position: static;
  display: block;
}
.others {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(260px, 100%), 1fr));
  gap: 12px;
  margin-bottom: 12px;
}
figure {
  margin: 0;
}
.others img {
  width: 100%;
  border: 1px solid var(--hairline);
}
</style>
