<script setup lang="ts">
import { downloadProduct, listContainers, showContainer } from '@kindred/contract/register/register';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { useProject } from '../portfolio/store.ts';
import NewerOffer from '../register/NewerOffer.vue';
import { useFollowNewer } from '../register/newer-versions.ts';
import DrawingList from './DrawingList.vue';
import DrawingTableView from './DrawingTableView.vue';
import { useShownVersion } from './shown-version.ts';

const route = useRoute();
const router = useRouter();
const project = useProject();
const containerId = computed(() => (typeof route.params.containerId === 'string' ? route.params.containerId : ''));
const { query } = useRouteQuery();

const { data: drawings } = useQuery({
  key: () => [project.projectId, 'container', 'drawings'],
  query: () => call(listContainers, { params: project.params, query: { kind: 'drawing', limit: 200 } }),
});
const { data: shown, error } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: { ...project.params, containerId: containerId.value } }),
  enabled: () => containerId.value !== '',
});
const container = computed(() =>
  containerId.value && shown.value?.container.id === containerId.value ? shown.value.container : null,
);
const followNewer = useFollowNewer();
const version = useShownVersion(
  () => (container.value && shown.value) ?? null,
  () => Number(query('version')),
  () => followNewer.value,
);
const goVersion = (number: number) =>
  router.push({ query: { ...route.query, version: String(number), markup: undefined } });

const pictureOf = (id: string): string => {
  const wanted = drawings.value?.items.find((drawing) => drawing.id === id)?.versionId ?? '';
  return addressOf(downloadProduct, { ...project.params, versionId: wanted, product: 'thumbnail' });
};
const addressOfDrawing = (id: string): string =>
  router.resolve({ name: 'sheets', params: { ...project.params, containerId: id } }).href;
usePageSubject(() => container.value?.title || container.value?.code);
</script>

<template>
  <div class="sheets">
    <h1 class="said-only">Sheets</h1>
    <SideList v-slot="{ close }" title="Sheets" :chosen="container?.title">
      <DrawingList
        :drawings="drawings?.items ?? []"
        :here="containerId"
        :address-of="addressOfDrawing"
        :picture-of="pictureOf"
        :loaded="drawings !== undefined"
        @chosen="close"
      />
    </SideList>
    <DrawingTableView
      v-if="container && version"
      :key="containerId"
      :container="container"
      :versions="shown!.versions"
      :version="version"
    >
      <NewerOffer
        v-if="version.number < container.versionNumber"
        :text="`Version ${container.versionNumber} is there; you see version ${version.number}.`"
        @take="goVersion(container.versionNumber)"
        ><label class="row"><input v-model="followNewer" type="checkbox" /> always at once</label></NewerOffer
      >
    </DrawingTableView>
    <section v-else>
      <EmptyPlace
        v-if="error && containerId"
        title="There is no such drawing, or you may not see it"
        style="margin: 40px"
        >Choose one from the list.</EmptyPlace
      >
      <EmptyPlace v-else title="Choose a drawing" style="margin: 40px"
        >It opens at full sharpness, with its markups and issues.</EmptyPlace
      >
    </section>
  </div>
</template>

<style scoped>
.sheets {
  height: 100%;
  display: grid;
  grid-template-columns: 176px minmax(0, 1fr) auto;
}
@media (max-width: 700px) {
  .sheets {
    grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr);
  }
}
</style>
