<script setup lang="ts">
import { addNamingValue } from '@kindred/contract/naming/naming';
import { discardIntake, listContainers, repairNames, type Container } from '@kindred/contract/register/register';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { ElMessageBox } from 'element-plus';
import { computed, ref } from 'vue';
import { useFirstAsSelected, useRelated } from '../things/related.ts';
import { useSession } from '../identity/store.ts';
import { useNaming } from '../naming/store.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { usePages } from '../platform/pages.ts';
import { answered, attempt, sayDone, sayProblem } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';
import IntakeRow from './IntakeRow.vue';
import { useRepairs } from './intake-repairs.ts';

/** Files with names that do not conform: many are repaired at once, the right ones go, the others say why they stay. */
const project = useProject();
const naming = useNaming();
const folders = useFolders();
const session = useSession();
const related = useRelated();
const {
  items: waiting,
  loaded,
  refetch,
} = usePages(
  () => [project.projectId, 'container', 'intake'],
  (after) =>
    call(listContainers, {
      params: project.params,
      query: { intake: true, limit: 200, ...(after && { after }) },
    }),
  // What is done with all of them needs all of them.
  { all: true },
);
useFirstAsSelected('container', waiting);
const repairs = useRepairs(waiting, (folderId) => folders.conventionIn(folderId));
const repairOf = ({ id }: Container) => repairs.value.get(id);
const judgedOf = (container: Container) => repairOf(container)?.judged.value;
const body = ref<HTMLElement | null>(null);
const rows = useVirtualizer(
  computed(() => ({
    count: waiting.value.length,
    getScrollElement: () => body.value,
    getItemKey: (i: number) => waiting.value[i]!.id,
    estimateSize: () => 150,
    overscan: 3,
  })),
);

const mayRepair = computed(() => project.may('register', 'manage'));
const repairable = computed(() =>
  mayRepair.value ? waiting.value.filter((container) => judgedOf(container)?.nearest) : [],
);
function takeNearest(): void {
  for (const container of repairable.value) repairOf(container)!.wanted.code = judgedOf(container)!.nearest!;
}
const ready = computed(() => waiting.value.filter((container) => judgedOf(container)?.verdict.ok));

async function allow(container: Container, { field, code }: { field: string; code: string }): Promise<void> {
  const answer = await answered(
    ElMessageBox.prompt(`What does “${code}” mean in ${field}?`, 'Allow a new value', {
      confirmButtonText: `Allow ${code}`,
      cancelButtonText: 'Cancel',
    }),
  );
  if (!answer) return;
  const params = { ...project.params, conventionId: folders.conventionHolding(container.folderId)!.id };
  const done = await attempt(() =>
    call(addNamingValue, { params, body: { field, code, meaning: (answer.value ?? '').trim() } }),
  );
  if (done) await naming.refetch();
}

const saving = ref(false);
/** So many go with one request. */
const AT_ONCE = 500;
async function repair(list: Container[]): Promise<void> {
  saving.value = true;
  try {
    const outcomes = [];
    for (let at = 0; at < list.length; at += AT_ONCE) outcomes.push(...(await send(list.slice(at, at + AT_ONCE))));
    outcomes.forEach(({ problem }, i) => {
      // It may have gone while the others went.
      const stays = repairOf(list[i]!);
      if (stays) stays.wanted.problem = problem ?? '';
    });
    const gone = outcomes.filter(({ problem }) => !problem).length;
    const stay = outcomes.length - gone;
    const who = outcomes.length === 1 ? outcomes[0]!.code : `${gone} ${gone === 1 ? 'file' : 'files'}`;
    if (gone)
      sayDone(`${who} ${gone === 1 ? 'is' : 'are'} in the register.${stay ? ` ${stay} stay here and say why.` : ''}`);
  } catch (error) {
    sayProblem(error);
  } finally {
    saving.value = false;
    await refetch();
  }
}
const send = (list: Container[]) =>
  call(repairNames, {
    params: project.params,
    body: {
      repairs: list.map((container) => {
        const { problem: _problem, code, ...rest } = repairOf(container)!.wanted;
        void _problem;
        return { containerId: container.id, code: code.trim(), ...rest };
      }),
    },
  });
async function asVersion(container: Container): Promise<void> {
  repairOf(container)!.wanted.asVersion = true;
  await repair([container]);
}
async function discard(container: Container): Promise<void> {
  const sure = await answered(
    ElMessageBox.confirm(
      `“${container.fileName}” was never part of the register. Taking it away cannot be undone.`,
      'Take it away for good',
      { confirmButtonText: 'Take away', cancelButtonText: 'Cancel' },
    ),
  );
  if (!sure) return;
  await attempt(() => call(discardIntake, { params: { ...project.params, containerId: container.id } }));
  await refetch();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Intake</h1>
      <span class="quiet"
        >Files whose names do not conform wait here, seen only by whoever delivered them and those who manage the
        register.</span
      >
      <span class="spread" />
      <el-button v-if="repairable.length > 1" @click="takeNearest">Take the nearest values</el-button>
      <el-button
        v-if="mayRepair && waiting.length > 1"
        type="primary"
        :disabled="!ready.length"
        :loading="saving"
        @click="repair(ready)"
        >{{ ready.length }} {{ ready.length === 1 ? 'file' : 'files' }} to the register</el-button
      >
    </div>
    <EmptyPlace v-if="loaded && !waiting.length" title="Nobody waits here"
      >Every name conforms. Files with other names come here, to be repaired.</EmptyPlace
    >
    <div v-else class="intake" role="table" aria-label="Files at the intake" :aria-rowcount="waiting.length + 1">
      <div class="line head" role="row" aria-rowindex="1">
        <span role="columnheader">As delivered</span>
        <span role="columnheader">Name, its verdict, and where it goes</span>
        <span role="columnheader"><span class="only-read">What to do</span></span>
      </div>
      <div ref="body" class="rows" role="rowgroup" tabindex="0" aria-label="Files">
        <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
          <div
            v-for="row in rows.getVirtualItems()"
            :key="String(row.key)"
            :ref="(element) => rows.measureElement(element as Element | null)"
            :data-index="row.index"
            class="line file-row"
            role="row"
            :aria-rowindex="row.index + 2"
            :style="{ transform: `translateY(${row.start}px)` }"
            @click="related.select({ type: 'container', id: waiting[row.index]!.id })"
          >
            <template v-for="container in [waiting[row.index]!]" :key="container.id">
              <IntakeRow
                v-if="repairOf(container)"
                :model-value="repairOf(container)!.wanted"
                :container="container"
                :convention="repairOf(container)!.convention.value"
                :judged="judgedOf(container)"
                :statuses="naming.naming?.statuses ?? []"
                :folders="folders.list"
                :may-repair="mayRepair"
                :may-allow="project.may('naming', 'change')"
                :may-discard="project.may('register', 'delete') || container.deliveredBy === session.me?.name"
                :saving="saving"
                :among="waiting.length > 1"
                @repair="repair([container])"
                @as-version="asVersion(container)"
                @discard="discard(container)"
                @allow="allow(container, $event)"
              />
            </template>
          </div>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.intake {
  flex: 1;
  min-height: 240px;
  display: flex;
  flex-direction: column;
  background: var(--sheet);
  border: 1px solid var(--hairline);
}
.line {
  display: grid;
  grid-template-columns: minmax(120px, 23%) 1fr 130px;
  gap: 12px;
  padding: 8px 10px;
  border-bottom: 1px solid var(--hairline);
}
.head {
  color: var(--graphite);
  font-size: 12px;
}
.rows {
  flex: 1;
  overflow: auto;
}
.file-row {
  position: absolute;
  inset: 0 0 auto 0;
}
.only-read {
  position: absolute;
  clip-path: inset(50%);
}
@media (max-width: 700px) {
  .line {
    grid-template-columns: 1fr;
  }
  .head span:not(:first-child) {
    display: none;
  }
}
</style>
