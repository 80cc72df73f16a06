<script setup lang="ts">
/** What changed between two versions of a drawing: on each other, side by side, by a curtain, in turns; and as a list. */
import {
  addRequests,
  changeRequest,
  collectRequests,
  judgeChange,
  removeRequest,
  startComparisonExport,
  type Brief,
} from '@kindred/contract/compare/compare';
import { listSheets } from '@kindred/contract/drawing/drawing';
import { addMarkup } from '@kindred/contract/markup/markup';
import { showContainer } from '@kindred/contract/register/register';
import { CHANGE_KINDS, countChanges, type ChangeKind } from '@kindred/core/compare/change-counts';
import { mappedBox } from '@kindred/core/compare/compare-sheets';
import type { NumberedChange, Place } from '@kindred/core/compare/numbered';
import { endsOf } from '@kindred/core/compare/ends';
import { whereOf } from '@kindred/core/compare/zone';
import { sayChange, sayNotCompared, sayVerdict } from '@kindred/words/sheet-changes';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useBeside } from '../drawing/beside.ts';
import type { SheetView } from '../drawing/table/view.ts';
import { asPng } from '../drawing/place-picture.ts';
import { useSheetKeys } from '../drawing/sheet-keys.ts';
import RaiseIssueDialog from '../issues/RaiseIssueDialog.vue';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { nextOf } from '../platform/next-of.ts';
import { usePageSubject } from '../platform/page-title.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import VersionSelect from '../register/VersionSelect.vue';
import BoxDrawer from './BoxDrawer.vue';
import BriefList from './BriefList.vue';
import { useChangeColours } from './change-colours.ts';
import ColoursPanel from './ColoursPanel.vue';
import ChangeList from './ChangeList.vue';
import ChangeOverlay from './ChangeOverlay.vue';
import ChangePictures from './ChangePictures.vue';
import ChangeSaid from './ChangeSaid.vue';
import ComparedSurfaces from './ComparedSurfaces.vue';
import CompareLayout from './CompareLayout.vue';
import CompareModes from './CompareModes.vue';
import { COMPARE_MODES, type CompareMode } from './compare-modes.ts';
import ComparedSheets from './ComparedSheets.vue';
import { addressOfBoxes, boxesFrom, liesIn } from './left-out.ts';
import ListTabs from './ListTabs.vue';
import { pictureOf, placeBefore } from './change-pictures.ts';
import { useComparison } from './comparison.ts';

const router = useRouter();
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

const { data: sheetsAfter } = useQuery({
  key: () => [project.projectId, 'container', 'sheets', other.version.value?.id ?? ''],
  query: () => call(listSheets, { params: { ...project.params, versionId: other.version.value!.id } }),
  enabled: () => other.version.value !== undefined,
});
const page = computed(() => Math.max(1, Number(query('page')) || 1));
const size = computed((): [number, number] => {
  const sheet = sheetsAfter.value?.find((one) => one.page === page.value);
  return sheet ? [sheet.width, sheet.height] : [1, 1];
});
const {
  view: compared,
  error: refused,
  params,
  sheet: pair,
  changes: comparison,
  brief,
  read,
  resume: goOn,
  cancel,
} = useComparison(
  () => {
    const [was, is] = [one.version.value, other.version.value];
    return was && is ? { beforeId: was.id, afterId: is.id } : undefined;
  },
  () => page.value,
);

const mode = computed((): CompareMode => (query('as') in COMPARE_MODES ? (query('as') as CompareMode) : 'over'));
const view = ref<SheetView | null>(null);
const table = ref<InstanceType<typeof ComparedSurfaces>>();

const kinds = ref<ChangeKind[]>([...CHANGE_KINDS]);
/** Boxes of the sheet that are left out, as the address has them. */
const ignored = computed(() => boxesFrom(query('ignore')));
const inSight = computed(() =>
  (comparison.value?.changes ?? []).filter(({ place }) => !ignored.value.some((box) => liesIn(place, box))),
);
const seen = computed(() => inSight.value.filter(({ kind }) => kinds.value.includes(kind)));
const chosen = computed(() => Number(query('change')) || undefined);
function choose(number: number): void {
  const change = comparison.value?.changes.find((one) => one.number === number);
  if (!change) return;
  void set({ change: String(number) });
  table.value?.table()?.showBox(change.place);
}
function step(by: 1 | -1): void {
  const numbers = seen.value.map(({ number }) => number);
  const at = chosen.value === undefined ? -1 : numbers.indexOf(chosen.value);
  const next = nextOf(numbers, at, by);
  if (next !== undefined) choose(next);
}
const LISTS = { changes: 'Changes', brief: 'Brief', sheets: 'Sheets' } as const;
type List = keyof typeof LISTS;
const list = computed<List>(() => (query('list') in LISTS ? (query('list') as List) : 'changes'));

const said = computed(
  () =>
    new Map(
      (brief.value?.changes ?? [])
        .filter(({ position }) => position === pair.value?.position)
        .map((change) => [change.number, change]),
    ),
);
const issueOf = (number: number): string | undefined =>
  brief.value?.raised.find((one) => one.position === pair.value?.position && one.number === number)?.issueId;
const zone = (change: NumberedChange): string => whereOf(change, size.value);
const { colours } = useChangeColours();
const mayAsk = computed(() => project.may('markup', 'add'));
const busy = ref(false);
async function change(run: () => Promise<unknown>): Promise<void> {
  busy.value = true;
  await attempt(run);
  await read();
  busy.value = false;
}
const judge = (number: number, asked: boolean | null, requestIds: string[], issueId?: string): Promise<void> =>
  change(() =>
    call(judgeChange, {
      params: params.value,
      body: { position: pair.value!.position, number, asked, requestIds, ...(issueId && { issueId }) },
    }),
  );
const onBefore = computed(() => ({ ...project.params, versionId: one.version.value?.id ?? '' }));
const addLines = (lines: string[]): Promise<void> =>
  change(() =>
    call(addRequests, {
      params: onBefore.value,
      body: { requests: lines.map((text) => ({ text, page: pair.value?.beforePage ?? null })) },
    }),
  );
const collect = (): Promise<void> => change(() => call(collectRequests, { params: onBefore.value }));
const takeBack = ({ id }: Request): Promise<void> =>
  change(() => call(removeRequest, { params: { ...project.params, requestId: id } }));

type Request = Brief['requests'][number];
const request = ref<Request>();
/** Where the chosen request was asked for, on the sheet after. */
const requestPlace = computed((): Place | undefined => {
  const asked = brief.value?.requests.find(({ id }) => id === request.value?.id);
  if (!asked?.place || !comparison.value || asked.page !== pair.value?.beforePage) return undefined;
  const [x, y, w, h] = asked.place;
  const [x0, y0, x1, y1] = mappedBox([x, y, x + w, y + h], comparison.value.similarity);
  return [x0, y0, x1 - x0, y1 - y0];
});
function chooseRequest(wanted: Request): void {
  request.value = wanted;
  const asked = compared.value?.sheets.find(({ beforePage }) => beforePage !== null && beforePage === wanted.page);
  if (asked?.afterPage && asked.afterPage !== page.value) goPage(asked.afterPage);
  else if (requestPlace.value) table.value?.table()?.showBox(requestPlace.value);
}
/** What a box that is drawn on the sheet is for. */
const drawing = ref<'ignore' | 'place' | undefined>();
async function drawn(box: Place): Promise<void> {
  const purpose = drawing.value;
  drawing.value = undefined;
  if (purpose === 'ignore') return void set({ ignore: addressOfBoxes([...ignored.value, box]) });
  const asked = request.value;
  if (!asked || !comparison.value) return;
  await change(() =>
    call(changeRequest, {
      params: { ...project.params, requestId: asked.id },
      body: {
        edition: brief.value!.requests.find(({ id }) => id === asked.id)!.edition,
        page: pair.value!.beforePage,
        place: placeBefore(box, comparison.value!.similarity),
      },
    }),
  );
}
async function chooseChange({ position, number }: { position: number; number: number }): Promise<void> {
  const sheet = compared.value?.sheets.find((one) => one.position === position);
  if (!sheet?.afterPage) return;
  view.value = sheet.afterPage === page.value ? view.value : null;
  await set({ page: String(sheet.afterPage), change: String(number), list: undefined });
}

const pictured = computed(() => {
  const found = comparison.value?.changes.find(({ number }) => number === chosen.value);
  if (!found || !one.source.value || !other.source.value || !pair.value?.beforePage) return undefined;
  const { similarity } = comparison.value!;
  const place = placeBefore(found.place, similarity);
  const { before: was, after: is } = endsOf(found, similarity);
  const colour = colours.value[found.kind];
  return {
    before: { source: one.source.value, page: pair.value.beforePage, place, ends: was, colour },
    after: { source: other.source.value, page: page.value, place: found.place, ends: is, colour },
  };
});
const raised = ref<NumberedChange>();
const notCompared = computed(() => comparison.value && sayNotCompared(comparison.value));
const pictures = ref<{ caption: string; file: Blob; address: string }[]>([]);
async function raise(number: number): Promise<void> {
  const [both, found] = [pictured.value, comparison.value?.changes.find((one) => one.number === number)];
  if (!both || !found) return;
  pictures.value = await Promise.all(
    [both.before, both.after].map(async (asked, i) => {
      const canvas = await pictureOf(asked, [960, 640]);
      const caption = i ? `Version ${after.value}` : `Version ${before.value}`;
      return { caption, file: await asPng(canvas), address: canvas.toDataURL() };
    }),
  );
  raised.value = found;
}
/** A cloud around it, a draft of whoever draws it. */
const markIt = (found: NumberedChange): Promise<boolean> =>
  attempt(async () => {
    const [x, y, w, h] = found.place;
    const markup = await call(addMarkup, {
      params: { ...project.params, versionId: other.version.value!.id },
      body: {
        page: page.value,
        shape: {
          kind: 'cloud',
          points: [
            [x - 8, y - 8],
            [x + w + 8, y + h + 8],
          ],
        },
        text: sayChange(found),
        status: 'ask',
      },
    });
    await router.push({
      name: 'sheets',
      params: { ...project.params, containerId: containerId.value },
      query: { version: after.value, page: page.value, markup: markup.id },
    });
  });
const jobs = useJobs();
const exportAs = (as: 'pdf' | 'xlsx'): Promise<boolean> =>
  attempt(async () => jobs.follow(await call(startComparisonExport, { params: params.value, body: { as } })));

useSheetKeys({
  sleeps: () => raised.value !== undefined || drawing.value !== undefined,
  withControl: {},
  plain: {
    PageDown: () => step(1),
    PageUp: () => step(-1),
    '0': () => table.value?.table()?.fit(),
    '9': () => table.value?.table()?.fitWidth(),
    '+': () => table.value?.table()?.zoomAt(1.4),
    '-': () => table.value?.table()?.zoomAt(1 / 1.4),
  },
  nudge: ([, y]) => (y ? (step(y > 0 ? 1 : -1), true) : false),
  tool: () => undefined,
});
const goPage = (number: number): void => {
  view.value = null;
  void set({ page: String(number), change: undefined });
};
const whole = computed(
  () => compared.value && sayVerdict(compared.value.comparison.counts, compared.value.comparison.brief),
);
const underWay = computed(() => ['waiting', 'comparing'].includes(compared.value?.comparison.status ?? ''));
/** Of this sheet. */
const verdict = computed(() => {
  const sheet = pair.value;
  if (!sheet) return '';
  if (sheet.outcome === 'unlike') return 'These two sheets have nothing in common.';
  if (sheet.outcome === 'added') return `This sheet is new in version ${after.value}.`;
  if (sheet.outcome === 'failed') return sheet.note;
  if (sheet.outcome !== 'compared') return '';
  return ignored.value.length
    ? `${sayVerdict(countChanges(inSight.value), null)}, besides what is left out`
    : sayVerdict(sheet.counts, sheet.brief);
});
watch(
  () => chosen.value !== undefined && comparison.value && table.value && view.value !== null,
  (now, earlier) => now && !earlier && choose(chosen.value!),
  // The table has taken its view over by then.
  { flush: 'post' },
);
</script>

<template>
  <CompareLayout heading="Changes between two versions" side="Changes" :said="verdict">
    <template #side>
      <ListTabs :lists="LISTS" :list="list" @list="set({ list: $event === 'changes' ? undefined : $event })" />
      <p v-if="(compared?.sheets.length ?? 0) > 1 || list !== 'changes'" class="whole">{{ whole }}</p>
      <p v-if="underWay && compared" class="quiet routine">
        {{ compared.comparison.done }} of {{ compared.comparison.sheets }} sheets compared
        <button class="button-link" @click="cancel">Stop</button>
      </p>
      <p v-if="compared && ['cancelled', 'failed'].includes(compared.comparison.status)" class="routine">
        {{
          compared.comparison.status === 'failed'
            ? 'The comparison did not come to its end.'
            : 'The comparison was stopped.'
        }}
        <button class="button-link" @click="goOn">Go on</button>
      </p>
      <template v-if="list === 'changes'">
        <p class="verdict" role="status">
          <template v-if="verdict">{{ verdict }}</template>
          <template v-else-if="refused">{{ (refused as Error).message }}</template>
          <template v-else-if="shown && versions.length < 2">There is one version only: nothing to compare.</template>
          <template v-else>Comparing …</template>
        </p>
        <p v-if="notCompared" class="quiet routine">{{ notCompared }}</p>
        <p v-if="ignored.length" class="quiet routine">
          {{ ignored.length === 1 ? 'One region is' : `${ignored.length} regions are` }} left out.
          <button class="button-link" @click="set({ ignore: undefined })">Take in again</button>
        </p>
        <ChangeList
          v-if="inSight.length"
          v-model:kinds="kinds"
          :changes="inSight"
          :chosen="chosen"
          :zone-of="zone"
          :colours="colours"
          :said="said"
          @choose="choose"
        >
          <template #chosen="{ change: found }">
            <ChangePictures v-if="pictured" v-bind="pictured" />
            <ChangeSaid
              v-if="brief"
              :said="said.get(found.number)"
              :requests="brief.requests"
              :may-say="mayAsk"
              @judge="(asked, ids) => judge(found.number, asked, ids)"
            />
            <div class="row acts">
              <RouterLink
                v-if="issueOf(found.number)"
                :to="{ name: 'issue', params: { ...project.params, issueId: issueOf(found.number)! } }"
                >Its issue</RouterLink
              >
              <button v-else-if="project.may('issues', 'add')" class="button-link" @click="raise(found.number)">
                Raise an issue from it
              </button>
              <button v-if="mayAsk" class="button-link" @click="markIt(found)">Mark it</button>
            </div>
          </template>
        </ChangeList>
        <template v-if="comparison?.routine.length">
          <p class="quiet routine">New with every issue</p>
          <ul class="routine">
            <li v-for="(field, i) in comparison.routine" :key="i">{{ field.before }} → {{ field.after }}</li>
          </ul>
        </template>
      </template>
      <BriefList
        v-else-if="list === 'brief' && brief"
        :brief="brief"
        :may-ask="mayAsk"
        :position="pair?.position"
        :chosen="request?.id"
        :busy="busy"
        @choose="chooseRequest"
        @change="chooseChange"
        @add="addLines"
        @collect="collect"
        @place="drawing = 'place'"
        @remove="takeBack"
      />
      <ComparedSheets v-else-if="compared" :sheets="compared.sheets" :page="page" @page="goPage" />
    </template>
    <template #head>
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
      <el-dropdown v-if="compared?.comparison.status === 'ready'" trigger="click" @command="exportAs($event)">
        <button class="button-link">Export</button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item command="pdf">Report with pictures, PDF</el-dropdown-item>
            <el-dropdown-item command="xlsx">Tables with pictures, XLSX</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
      <RouterLink :to="{ name: 'sheets', params: { ...project.params, containerId }, query: { version: after, page } }"
        >Table</RouterLink
      >
    </template>
    <template #default>
      <EmptyPlace v-if="error" title="There is no such drawing, or you may not see it" style="margin: 40px"
        >Choose one from the sheets.</EmptyPlace
      >
      <EmptyPlace
        v-else-if="other.broken.value || one.broken.value"
        title="A sheet could not be opened"
        style="margin: 40px"
        >{{ other.broken.value || one.broken.value }}</EmptyPlace
      >
      <ComparedSurfaces
        v-else
        ref="table"
        v-model:view="view"
        :before="one.source.value && pair?.beforePage ? { source: one.source.value, page: pair.beforePage } : undefined"
        :after="other.source.value && { source: other.source.value, page }"
        :similarity="comparison?.similarity"
        :mode="mode"
        @resized="chosen !== undefined && choose(chosen)"
      >
        <template #default="{ view: at }">
          <ChangeOverlay
            v-if="comparison"
            :changes="seen"
            :chosen="chosen"
            :view="at"
            :colours="colours"
            :request="list === 'brief' ? requestPlace : undefined"
            :left-out="ignored"
            @choose="choose"
          />
          <BoxDrawer v-if="drawing" :view="at" @drawn="drawn" @close="drawing = undefined" />
        </template>
      </ComparedSurfaces>
      <RaiseIssueDialog
        v-if="raised && other.version.value"
        :place="{
          versionId: other.version.value.id,
          page,
          x: raised.place[0] + raised.place[2] / 2,
          y: raised.place[1] + raised.place[3] / 2,
        }"
        :about="sayChange(raised)"
        :pictures="pictures"
        :raised="
          (issueId: string) =>
            judge(
              raised!.number,
              said.get(raised!.number)?.ticked ? said.get(raised!.number)!.asked : null,
              [...(said.get(raised!.number)?.requestIds ?? [])],
              issueId,
            )
        "
        @close="raised = undefined"
      />
    </template>
    <template #foot>
      <CompareModes :mode="mode" :modes="COMPARE_MODES" @mode="set({ as: $event })" />
      <span class="spread" />
      <ColoursPanel />
      <button v-if="comparison?.changes.length" class="button-link" @click="drawing = 'ignore'">
        Leave a region out
      </button>
      <span class="quiet hint">{{
        drawing ? 'Draw a box on the sheet; Esc ends it' : '↑ ↓ the changes one by one'
      }}</span>
    </template>
  </CompareLayout>
</template>

<style scoped>
.whole {
  margin: 0;
  padding: 10px 12px 0;
  font-weight: 600;
}
.acts {
  gap: 14px;
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
@media (max-width: 700px) {
  .hint {
    display: none;
  }
}
</style>
