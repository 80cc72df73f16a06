<script setup lang="ts">
/** Title blocks that were corrected once, and are read so from then on. */
import { forgetTitleBlock, listTaughtTitleBlocks } from '@kindred/contract/drawing/drawing';
import { useQuery } from '@pinia/colada';
import { RouterLink } from 'vue-router';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const project = useProject();
const time = useTime();
const { data: blocks, refetch } = useQuery({
  key: () => [project.projectId, 'title block'],
  query: () => call(listTaughtTitleBlocks, { params: project.params }),
});
async function forget(layoutId: string): Promise<void> {
  if (await attempt(() => call(forgetTitleBlock, { params: { ...project.params, layoutId } })))
    sayDone('Forgotten. What was read by it stays as it is.');
  await refetch();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Title blocks</h1>
      <span class="quiet">Corrected once, and read so on every sheet that has the same.</span>
    </div>
    <EmptyPlace v-if="blocks && !blocks.length" title="None was taught yet"
      >Correct what was read from a sheet in the
      <RouterLink :to="{ name: 'sheet-register', params: project.params }">sheet register</RouterLink>: the next
      drawings with the same title block are read as you wrote it.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>Taught by sheet</th>
          <th>Read by it</th>
          <th>Known by</th>
          <th>Taught</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="block in blocks" :key="block.id">
          <td>{{ block.sheet }}</td>
          <td>{{ block.fields.join(', ') }}</td>
          <td class="quiet">{{ block.words.join(' · ') }}</td>
          <td>{{ block.taughtBy }}, {{ time.short(block.taughtAt) }}</td>
          <td class="right">
            <button v-if="project.may('register', 'change')" class="button-link" @click="forget(block.id)">
              Forget
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
