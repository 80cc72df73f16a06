<script setup lang="ts">
import { downloadFederationPicture, listFederationPictures } from '@kindred/contract/federation/federations';
import { listProjects } from '@kindred/contract/portfolio/portfolio';
import { Plus } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { addressOf, call } from '../platform/api.ts';
import PersonBadge from '../platform/PersonBadge.vue';
import { day, isOverdue } from '../platform/time.ts';
import NewProjectDialog from './NewProjectDialog.vue';

const router = useRouter();
const creating = ref(false);
const { data: projects } = useQuery({ key: ['projects'], query: () => call(listProjects) });
const { data: pictures } = useQuery({ key: ['federation pictures'], query: () => call(listFederationPictures) });
/** Of the federation of the most models of each project. */
const pictureOf = computed(
  () =>
    new Map(
      (pictures.value ?? []).toReversed().map(({ projectId, federationId, name, picture }) => {
        const src = addressOf(downloadFederationPicture, { projectId, federationId }, { of: picture });
        return [projectId, { src, alt: `Federation ${name}` }];
      }),
    ),
);
const open = (projectId: string) => router.push({ name: 'register', params: { projectId } });
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Portfolio</h1>
      <span class="spread" />
      <el-button type="primary" @click="creating = true"
        ><Plus :size="15" style="margin-right: 5px" /> New project</el-button
      >
    </div>
    <EmptyPlace v-if="projects && !projects.length" title="No project yet">
      A project holds models, drawings, people and what they decide. It is usable at once: folders, roles, a naming
      convention and a review route come with it.
      <template #step><el-button type="primary" @click="creating = true">Create the first project</el-button></template>
    </EmptyPlace>
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>Number</th>
          <th v-if="pictureOf.size" aria-label="Picture"></th>
          <th>Project</th>
          <th>Kind</th>
          <th>Next date</th>
          <th>Here now</th>
          <th class="right">People</th>
          <th>Waiting for you</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="project in projects"
          :key="project.id"
          class="clickable"
          tabindex="0"
          @click="open(project.id)"
          @keydown.enter="open(project.id)"
        >
          <td class="mono">{{ project.number }}</td>
          <td v-if="pictureOf.size" class="picture">
            <img v-if="pictureOf.has(project.id)" v-bind="pictureOf.get(project.id)" width="96" height="64" />
          </td>
          <td>
            <b>{{ project.name }}</b><br /><span class="quiet">{{ project.address || ' ' }}</span>
          </td>
          <td>{{ project.kind }}</td>
          <td>
            <template v-if="project.nextDate"
              ><span :class="isOverdue(project.nextDate.day) ? 'sign needs-you full' : ''">{{
                day(project.nextDate.day)
              }}</span
              ><br /><span class="quiet"
                >{{ project.nextDate.what }}{{ isOverdue(project.nextDate.day) ? ', overdue' : '' }}</span
              ></template
            >
          </td>
          <td>
            <span class="row" style="gap: 3px"
              ><PersonBadge v-for="person in project.present.slice(0, 6)" :key="person.id" :person="person" />
              <small v-if="project.present.length > 6" class="quiet">+{{ project.present.length - 6 }}</small></span
            >
          </td>
          <td class="right mono">{{ project.people }}</td>
          <td>
            <span v-if="project.waiting" class="sign needs-you full"
              >{{ project.waiting }} {{ project.waiting === 1 ? 'thing' : 'things' }}</span
            ><span v-else class="quiet">nothing</span>
          </td>
        </tr>
      </tbody>
    </table>
    <NewProjectDialog v-if="creating" @close="creating = false" />
  </div>
</template>

<style scoped>
.picture {
  width: 112px;
}
img {
  display: block;
}
</style>
