<script setup lang="ts">
import { listSheetRegister, type RegisteredSheet } from '@kindred/contract/drawing/drawing';
import { counted } from '@kindred/words/sentence';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import MoreRows from '../platform/MoreRows.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { useProject } from '../portfolio/store.ts';
import TakeAlongDialog from '../markup/TakeAlongDialog.vue';
import ConfirmSheetsDialog from './ConfirmSheetsDialog.vue';
import { useRouteQuery } from '../platform/route-query.ts';

/** All sheets of the project by number; what was read from title blocks waits here for a second look. */
const project = useProject();
const related = useRelated();
const route = useRoute();
const { query } = useRouteQuery();
const router = useRouter();
const typed = ref('');
const words = refDebounced(typed, 200);
const pagesOf = (kind: string, wanted: () => { q?: string; unconfirmed?: boolean }, all: boolean) =>
  usePages(
    () => [project.projectId, 'container', 'sheet register', kind, wanted()],
    (after) =>
      call(listSheetRegister, { params: project.params, query: { limit: 200, ...wanted(), ...(after && { after }) } }),
    { all },
  );
const {
  items: sheets,
  loaded,
  hasMore,
  more,
  refetch,
} = pagesOf('shown', () => (words.value.trim() ? { q: words.value.trim() } : {}), false);
const { items: unconfirmed, refetch: refetchUnconfirmed } = pagesOf('unconfirmed', () => ({ unconfirmed: true }), true);

interface Waiting {
  versionId: string;
  containerId: string;
  code: string;
  count: number;
}
const waiting = computed(() => {
  const byVersion = new Map<string, Waiting>();
  for (const { versionId, containerId, code } of unconfirmed.value) {
    const one = byVersion.get(versionId) ?? { versionId, containerId, code, count: 0 };
    one.count++;
    byVersion.set(versionId, one);
  }
  return [...byVersion.values()];
});
const takesAll = ref(false);
const READ = {
  none: 'Read from the title block, not yet confirmed',
  recognised: 'Recognised from a picture, not yet looked at: nothing of it counts before',
  failed: 'A picture of which no words could be recognised',
};
/** So many drawings stand above the list; the others when they are asked for. */
const FEW = 4;
const showsAll = ref(false);
const confirming = computed(() => query('confirm'));
const confirm = (versionId?: string) => router.replace({ query: { ...route.query, confirm: versionId } });
const place = ({ containerId, page }: RegisteredSheet) => ({
  name: 'sheets',
  params: { ...project.params, containerId },
  query: { page: String(page) },
});
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Sheet register</h1>
      <span class="quiet"
        >{{ hasMore ? 'the first ' : '' }}{{ sheets.length }} sheets of the newest versions you may see</span
      >
      <span class="spread" />
      <el-input
        v-model="typed"
        placeholder="Search number, title, code"
        clearable
        style="width: 230px"
        aria-label="Search the sheets"
      />
      <el-button v-if="project.may('markup', 'see')" @click="takesAll = true">Take markups along …</el-button>
    </div>
    <section v-if="waiting.length && project.may('register', 'change')" class="waiting">
      <p>
        <b>Read from title blocks, not yet looked at.</b> These sheets count once somebody has corrected or confirmed
        them.
      </p>
      <div v-for="one in showsAll ? waiting : waiting.slice(0, FEW)" :key="one.versionId" class="row">
        <span class="mono">{{ one.code }}</span>
        <span class="quiet">{{ one.count }} {{ one.count === 1 ? 'sheet' : 'sheets' }}</span>
        <el-button size="small" @click="confirm(one.versionId)">Look at them</el-button>
      </div>
      <button v-if="!showsAll && waiting.length > FEW" class="button-link more" @click="showsAll = true">
        {{ counted(waiting.length - FEW, 'more drawing') }}
      </button>
    </section>
    <EmptyPlace v-if="loaded && !sheets.length" title="No sheet yet"
      >Each page of a drawing that is delivered becomes a sheet, with number, title, revision and scale read from its
      title block.</EmptyPlace
    >
    <table v-else class="plain-table">
      <thead>
        <tr>
          <th>Number</th>
          <th>Title</th>
          <th>Rev</th>
          <th>Scale</th>
          <th>Date</th>
          <th>In</th>
          <th class="right">Page</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="sheet in sheets"
          :key="sheet.id"
          @click="related.select({ type: 'container', id: sheet.containerId })"
        >
          <td class="mono">
            <RouterLink :to="place(sheet)">{{ sheet.number || '–' }}</RouterLink>
          </td>
          <td>
            {{ sheet.title }}
            <span v-if="sheet.recognition === 'waiting'" class="sign quiet read">its words are being recognised</span>
            <span v-else-if="!sheet.confirmed" class="sign caution read" :title="READ[sheet.recognition]">{{
              sheet.recognition === 'recognised' ? 'recognised' : 'read'
            }}</span>
          </td>
          <td class="mono">{{ sheet.revision }}</td>
          <td class="mono">{{ sheet.scale }}</td>
          <td class="mono">{{ sheet.date }}</td>
          <td class="mono quiet">{{ sheet.code }}</td>
          <td class="right mono">{{ sheet.page }}</td>
        </tr>
      </tbody>
    </table>
    <MoreRows :has-more="hasMore" @more="more" />
    <TakeAlongDialog v-if="takesAll" @close="takesAll = false" />
    <ConfirmSheetsDialog
      v-if="confirming"
      :version-id="confirming"
      @close="confirm()"
      @done="(confirm(), refetch(), refetchUnconfirmed())"
    />
  </div>
</template>

<style scoped>
.waiting {
  border: 1px solid var(--hairline);
  background: var(--sheet);
  padding: 10px 14px;
  margin-bottom: 14px;
  display: grid;
  gap: 6px;
}
.more {
  justify-self: start;
}
.read {
  margin-left: 8px;
}
.waiting p {
  margin: 0;
}
</style>
