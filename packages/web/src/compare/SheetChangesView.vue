<script setup lang="ts">
/** What changed between two versions of a drawing: on each other, side by side, by a curtain, in turns; and as a list. */
import type { ChangeKind } from '@kindred/core/compare/compare-sheets';
import { matchPages } from '@kindred/core/compare/match-pages';
import { listSheets, showVectors } from '@kindred/contract/drawing/drawing';
import { showContainer } from '@kindred/contract/register/register';
import { counted } from '@kindred/words/sentence';
import { sayChange } from '@kindred/words/sheet-changes';
import { useQuery } from '@pinia/colada';
import { useIntervalFn } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import { useBeside } from '../drawing/beside.ts';
import SheetTable from '../drawing/table/SheetTable.vue';
import type { SheetView } from '../drawing/table/view.ts';
import { useSheetKeys } from '../drawing/sheet-keys.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import SideList from '../platform/SideList.vue';
import { addressOf, call } from '../platform/api.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { useProject } from '../portfolio/store.ts';
import VersionSelect from '../register/VersionSelect.vue';
import ChangeList from './ChangeList.vue';
import ChangeOverlay from './ChangeOverlay.vue';
import { useSheetComparison, type SheetPage } from './sheet-comparison.ts';
import { viewBefore } from './view-before.ts';

const route = useRoute();
const project = useProject();
const { query, set } = useRouteQuery();
const containerId = computed(() => String(route.params.containerId));
const { data: shown, error } = useQuery({
  key: () => [project.projectId, 'container', containerId.value],
  query: () => call(showContainer, { params: { ...project.params, containerId: containerId.value } }),
});
const versions = computed(() => [...(shown.value?.versions ?? [])].sort((a, b) => a.number - b.number));
usePageSubject(() => shown.value && `Changes of ${shown.value.container.title || shown.value.container.code}`);

/** The numbers of the two versions: those of the address, else the newest one and the one before it. */
const after = computed(() => Number(query('after')) || (versions.value.at(-1)?.number ?? 0));
const before = computed(
  () => Number(query('before')) || (versions.value.filter(({ number }) => number < after.value).at(-1)?.number ?? 0),
);
const one = useBeside(
  () => versions.value,
  () => before.value,
);
const other = useBeside(
  () => versions.value,
  () => after.value,
);

const sheetsOf = (version: () => string | undefined) =>
  useQuery({
    key: () => [project.projectId, 'container', 'sheets', version() ?? ''],
    query: () => call(listSheets, { params: { ...project.params, versionId: version()! } }),
    enabled: () => version() !== undefined,
  });
const { data: sheetsBefore } = sheetsOf(() => one.version.value?.id);
const { data: sheetsAfter } = sheetsOf(() => other.version.value?.id);
const pairs = computed(() => {
  if (!sheetsBefore.value || !sheetsAfter.value) return [];
  const named = <T extends object>(sheets: readonly T[]) =>
    sheets.map((sheet) => ({ ...sheet, words: [] as string[] }));
  return matchPages(named(sheetsBefore.value), named(sheetsAfter.value));
});
const page = computed(() => Math.max(1, Number(query('page')) || 1));
const pair = computed(() => pairs.value.find((both) => both.after?.page === page.value));
const { comparison, failed } = useSheetComparison(
  () => {
    const [was, is] = [one.version.value, other.version.value];
    const both = pair.value;
    if (!was || !is || !both?.before || !both.after) return undefined;
    return {
      before: { versionId: was.id, page: both.before.page },
      after: { versionId: is.id, page: both.after.page },
    };
  },
  async ({ versionId, page: number }: SheetPage) => {
    const answer = await fetch(addressOf(showVectors, { ...project.params, versionId, page: String(number) }));
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : undefined;
  },
);

const MODES = { over: 'On each other', side: 'Side by side', curtain: 'Curtain', turns: 'In turns' } as const;
type Mode = keyof typeof MODES;
const mode = computed<Mode>(() => (query('as') in MODES ? (query('as') as Mode) : 'over'));
const view = ref<SheetView | null>(null);
const table = ref<InstanceType<typeof SheetTable>>();
const under = computed(() => view.value && comparison.value && viewBefore(view.value, comparison.value.similarity));
const beforeStyle = computed(() => {
  const at = under.value;
  if (!at?.tilt) return {};
  return { transform: `rotate(${at.tilt}rad)`, transformOrigin: `${at.view.x}px ${at.view.y}px` };
});
/** Of the window: left of it the sheet before is seen. */
const curtain = ref(0.5);
const showsBefore = ref(false);
const { pause, resume } = useIntervalFn(() => (showsBefore.value = !showsBefore.value), 900, { immediate: false });
watch(mode, (now) => (now === 'turns' ? resume() : pause()), { immediate: true });
// The table has another width then: what was looked at stays in its middle.
watch(
  () => mode.value === 'side',
  () => setTimeout(() => chosen.value !== undefined && choose(chosen.value), 60),
);
const beforeClip = computed(() => (mode.value === 'curtain' ? `inset(0 ${(1 - curtain.value) * 100}% 0 0)` : 'none'));

const kinds = ref<ChangeKind[]>(['added', 'removed', 'moved', 'text']);
const seen = computed(() => (comparison.value?.changes ?? []).filter(({ kind }) => kinds.value.includes(kind)));
const chosen = computed(() => Number(query('change')) || undefined);
function choose(number: number): void {
  const change = comparison.value?.changes.find((one) => one.number === number);
  if (!change) return;
  void set({ change: String(number) });
  table.value?.showBox(change.place);
}
function step(by: 1 | -1): void {
  const numbers = seen.value.map(({ number }) => number);
  const at = chosen.value === undefined ? -1 : numbers.indexOf(chosen.value);
  const next = numbers[at < 0 ? (by > 0 ? 0 : numbers.length - 1) : at + by];
  if (next !== undefined) choose(next);
}
const raisedFrom = ref<number>();
const raised = computed(() => comparison.value?.changes.find(({ number }) => number === raisedFrom.value));
useSheetKeys({
  sleeps: () => raised.value !== undefined,
  withControl: {},
  plain: {
    PageDown: () => step(1),
    PageUp: () => step(-1),
    '0': () => table.value?.fit(),
    '9': () => table.value?.fitWidth(),
    '+': () => table.value?.zoomAt(1.4),
    '-': () => table.value?.zoomAt(1 / 1.4),
  },
  nudge: ([, y]) => (y ? (step(y > 0 ? 1 : -1), true) : false),
  tool: () => undefined,
});
const goPage = (number: number): void => {
  view.value = null;
  void set({ page: String(number), change: undefined });
};
const verdict = computed(() => {
  const found = comparison.value;
  if (!found) return '';
  if (found.unlike) return 'These two sheets have nothing in common.';
  return found.changes.length ? counted(found.changes.length, 'change') : 'Nothing changed';
});
</script>

<template>
  <div class="changes">
    <SideList title="Changes" :chosen="verdict">
      <h1 class="said-only">Changes between two versions</h1>
      <p class="verdict" role="status">
        <template v-if="verdict">{{ verdict }}</template>
        <template v-else-if="failed"
          >What these sheets draw is not known: they were prepared before it was kept.</template
        >
        <template v-else-if="shown && versions.length < 2">There is one version only: nothing to compare.</template>
        <template v-else-if="pair && !pair.before">This sheet is new in version {{ after }}.</template>
        <template v-else>Comparing …</template>
      </p>
      <p v-if="comparison?.pictures" class="quiet routine">Pictures on these sheets are not compared.</p>
      <ChangeList
        v-if="comparison?.changes.length"
        v-model:kinds="kinds"
        :changes="comparison.changes"
        :chosen="chosen"
        :may-raise="project.may('issues', 'add')"
        @choose="choose"
        @raise="raisedFrom = $event"
      />
      <template v-if="comparison?.routine.length">
        <p class="quiet routine">New with every issue</p>
        <ul class="routine">
          <li v-for="(field, i) in comparison.routine" :key="i">{{ field.before }} → {{ field.after }}</li>
        </ul>
      </template>
    </SideList>
    <section class="middle">
      <div class="head row">
        <b class="mono">{{ shown?.container.code }}</b>
        <VersionSelect
          :version="before"
          :versions="versions.filter(({ number }) => number !== after)"
          label="Version before"
          @version="set({ before: String($event), change: undefined })"
        />
        <span aria-hidden="true">→</span>
        <VersionSelect
          :version="after"
          :versions="versions.filter(({ number }) => number !== before)"
          label="Version after"
          @version="set({ after: String($event), change: undefined })"
        />
        <el-select
          v-if="(sheetsAfter?.length ?? 0) > 1"
          :model-value="page"
          size="small"
          style="width: 150px"
          aria-label="Sheet"
          @update:model-value="goPage($event)"
          ><el-option v-for="sheet in sheetsAfter" :key="sheet.id" :value="sheet.page" :label="sheet.label"
        /></el-select>
        <span class="spread" />
        <RouterLink
          :to="{ name: 'sheets', params: { ...project.params, containerId }, query: { version: after, page } }"
          >Table</RouterLink
        >
      </div>
      <EmptyPlace v-if="error" title="There is no such drawing, or you may not see it" style="margin: 40px"
        >Choose one from the sheets.</EmptyPlace
      >
      <EmptyPlace
        v-else-if="other.broken.value || one.broken.value"
        title="A sheet could not be opened"
        style="margin: 40px"
        >{{ other.broken.value || one.broken.value }}</EmptyPlace
      >
      <div v-else class="surfaces" :class="{ two: mode === 'side' }">
        <div v-if="mode === 'side'" class="surface">
          <SheetTable
            v-if="one.source.value && pair?.before"
            :view="under?.view ?? view"
            :source="one.source.value"
            :page="pair.before.page"
            :pans="false"
          />
        </div>
        <div class="surface">
          <SheetTable
            v-if="other.source.value"
            ref="table"
            v-model:view="view"
            :source="other.source.value"
            :page="page"
            pans
          >
            <template #default="{ view: at }">
              <div
                v-if="
                  one.source.value && pair?.before && under && (mode === 'curtain' || (mode === 'turns' && showsBefore))
                "
                class="before"
                :style="{ clipPath: beforeClip }"
              >
                <div class="tilt" :style="beforeStyle">
                  <SheetTable :view="under.view" :source="one.source.value" :page="pair.before.page" :pans="false" />
                </div>
              </div>
              <ChangeOverlay v-if="comparison" :changes="seen" :chosen="chosen" :view="at" @choose="choose" />
              <div v-if="mode === 'curtain'" class="seam" :style="{ left: `${curtain * 100}%` }" />
              <input
                v-if="mode === 'curtain'"
                v-model.number="curtain"
                class="curtain"
                type="range"
                min="0"
                max="1"
                step="0.01"
                aria-label="Curtain between before and after"
                @pointerdown.stop
              />
            </template>
          </SheetTable>
        </div>
      </div>
      <div class="foot row">
        <div role="group" aria-label="How the two are shown" class="row">
          <button
            v-for="(word, name) in MODES"
            :key="name"
            class="mode"
            :aria-pressed="mode === name"
            @click="set({ as: name })"
          >
            {{ word }}
          </button>
        </div>
        <span class="spread" />
        <span class="quiet hint">↑ ↓ the changes one by one</span>
      </div>
    </section>
    <RaiseIssueDialog
      v-if="raised && other.version.value"
      :place="{
        versionId: other.version.value.id,
        page,
        x: raised.place[0] + raised.place[2] / 2,
        y: raised.place[1] + raised.place[3] / 2,
      }"
      :about="sayChange(raised)"
      @close="raisedFrom = undefined"
    />
  </div>
</template>

<style scoped>
.changes {
  height: 100%;
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
}
.middle {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.head,
.foot {
  padding: 5px 12px;
  min-height: 36px;
}
.head {
  border-bottom: 1px solid var(--hairline);
}
.foot {
  border-top: 1px solid var(--hairline);
}
.surfaces {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.surfaces.two {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.surface {
  position: relative;
  min-height: 0;
}
.surface + .surface {
  border-left: 2px solid var(--hairline);
}
.before,
.tilt {
  position: absolute;
  inset: 0;
}
.before {
  pointer-events: none;
}
.curtain {
  position: absolute;
  inset: auto 0 12px;
  width: 100%;
  margin: 0;
}
.seam {
  position: absolute;
  inset: 0 auto;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
  pointer-events: none;
}
.verdict {
  margin: 0;
  padding: 12px 12px 4px;
  font-weight: 600;
}
p.routine {
  margin: 12px 12px 4px;
}
ul.routine {
  margin: 0;
  padding: 0 12px 12px;
  list-style: none;
  color: var(--graphite);
}
.mode {
  min-height: 30px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  font: inherit;
  color: var(--ink);
  cursor: pointer;
}
.mode[aria-pressed='true'] {
  background: var(--ink);
  color: #fff;
}
@media (max-width: 700px) {
  .changes {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
  .surfaces.two {
    grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
  .head,
  .foot {
    flex-wrap: wrap;
  }
  .hint {
    display: none;
  }
}
</style>
