<script setup lang="ts">
import { showRoom } from '@kindred/contract/register/uploads';
import { useQuery } from '@pinia/colada';
import { call } from '../platform/api.ts';
import { bytes } from '../platform/time.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { computed } from 'vue';
import { useProject } from '../portfolio/store.ts';
import UploadDeskPanel from './UploadDeskPanel.vue';
import { useUploads } from './uploads.ts';

/** Everything of this person that is on its way into the project, or has arrived and waits to be delivered. */
const project = useProject();
const uploads = useUploads();
const desk = computed(() => uploads.deskIn(project.projectId));
const { data: room } = useQuery({
  key: () => [project.projectId, 'room'],
  query: () => call(showRoom, { params: project.params }),
  staleTime: 0,
});
const heldInWords = computed(() => {
  if (!room.value) return '';
  const { held, most } = room.value;
  return most
    ? `This project holds ${bytes(held)} of the ${bytes(most)} that it may.`
    : `This project holds ${bytes(held)}.`;
});
</script>

<template>
  <div class="place">
    <h1 class="only-read">Upload desk</h1>
    <UploadDeskPanel v-if="desk" :desk="desk" :open="uploads.open" />
    <EmptyPlace v-else title="Nothing is on its way" style="margin: 20px"
      >Files that you drop on the
      <RouterLink :to="{ name: 'register', params: project.params }">register</RouterLink> arrive here, and wait until
      you deliver or leave them out, on whatever device you look. After seven days what nobody delivered
      goes.</EmptyPlace
    >
    <p class="quiet room">{{ heldInWords }}</p>
  </div>
</template>

<style scoped>
.place {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.only-read {
  position: absolute;
  clip-path: inset(50%);
}
.room {
  margin: auto 14px 10px;
  margin-left: 20px;
}
</style>
