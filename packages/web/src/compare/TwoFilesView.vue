<script setup lang="ts">
/** What changed between two PDFs that are in no register. */
import { CHANGE_KINDS, countChanges, type ChangeKind } from '@kindred/core/compare/change-counts';
import type { NumberedChange } from '@kindred/core/compare/numbered';
import { whereOf } from '@kindred/core/compare/zone';
import { sayNotCompared, sayVerdict } from '@kindred/words/sheet-changes';
import { computed, ref, watch } from 'vue';
import type { SheetView } from '../drawing/table/view.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import ChangeList from './ChangeList.vue';
import ChangeOverlay from './ChangeOverlay.vue';
import ColoursPanel from './ColoursPanel.vue';
import ComparedSurfaces from './ComparedSurfaces.vue';
import CompareLayout from './CompareLayout.vue';
import CompareModes from './CompareModes.vue';
import { useChangeColours } from './change-colours.ts';
import { COMPARE_MODES, type CompareMode } from './compare-modes.ts';
import { useTwoFiles, type TwoFiles } from './two-files.ts';

const before = ref<File>();
const after = ref<File>();
const files = computed((): TwoFiles | undefined =>
  before.value && after.value ? { before: before.value, after: after.value } : undefined,
);
const position = ref(0);
watch(files, () => (position.value = 0));
const { open, comparison, broken } = useTwoFiles(
  () => files.value,
  () => position.value,
);
const pair = computed(() => open.value?.pairs[position.value]);
const { colours } = useChangeColours();
const view = ref<SheetView | null>(null);
const mode = ref<CompareMode>('over');
const kinds = ref<ChangeKind[]>([...CHANGE_KINDS]);
const seen = computed(() => (comparison.value?.changes ?? []).filter(({ kind }) => kinds.value.includes(kind)));
const chosen = ref<number>();
const surfaces = ref<InstanceType<typeof ComparedSurfaces>>();
function choose(number: number): void {
  chosen.value = number;
  const found = comparison.value?.changes.find((one) => one.number === number);
  if (found) surfaces.value?.table()?.showBox(found.place);
}
const size = ref<[number, number]>([1, 1]);
watch(pair, async (now) => {
  view.value = null;
  chosen.value = undefined;
  if (now?.after) size.value = await open.value!.after.size(now.after);
});
const zone = (change: NumberedChange): string => whereOf(change, size.value);
const verdict = computed(() => {
  if (broken.value) return broken.value;
  if (!files.value) return '';
  if (pair.value && !pair.value.before) return 'This sheet is new.';
  if (pair.value && !pair.value.after) return 'This sheet is not there any more.';
  if (!comparison.value) return 'Comparing …';
  if (comparison.value.unlike) return 'These two sheets have nothing in common.';
  return sayVerdict(countChanges(comparison.value.changes), null);
});
const take = (event: Event): File | undefined => (event.target as HTMLInputElement).files?.[0];
</script>

<template>
  <CompareLayout heading="Two files compared" side="Two files" :said="verdict">
    <template #side>
      <div class="files">
        <label>Before <input type="file" accept=".pdf,application/pdf" @change="before = take($event)" /></label>
        <label>After <input type="file" accept=".pdf,application/pdf" @change="after = take($event)" /></label>
        <el-select v-if="(open?.pairs.length ?? 0) > 1" v-model="position" aria-label="Sheet">
          <el-option v-for="(one, i) in open!.pairs" :key="i" :value="i" :label="one.name" />
        </el-select>
      </div>
      <p class="verdict" role="status">{{ verdict }}</p>
      <p v-if="comparison && sayNotCompared(comparison)" class="quiet">{{ sayNotCompared(comparison) }}</p>
      <ChangeList
        v-if="comparison?.changes.length"
        v-model:kinds="kinds"
        :changes="comparison.changes"
        :chosen="chosen"
        :zone-of="zone"
        :colours="colours"
        :said="new Map()"
        @choose="choose"
      />
    </template>
    <template #default>
      <EmptyPlace v-if="!files" title="Choose a PDF as it was, and one as it is" style="margin: 40px"
        >What changed is found in this browser: neither is sent anywhere.</EmptyPlace
      >
      <ComparedSurfaces
        v-else
        ref="surfaces"
        v-model:view="view"
        :before="open && pair?.before ? { source: open.before, page: pair.before } : undefined"
        :after="open && pair?.after ? { source: open.after, page: pair.after } : undefined"
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
            @choose="choose"
          />
        </template>
      </ComparedSurfaces>
    </template>
    <template #foot>
      <CompareModes :mode="mode" :modes="COMPARE_MODES" @mode="mode = $event" />
      <span class="spread" />
      <ColoursPanel />
    </template>
  </CompareLayout>
</template>

<style scoped>
.files {
  display: grid;
  gap: 8px;
  padding: 12px;
  border-bottom: 1px solid var(--hairline);
}
.files label {
  display: grid;
  gap: 2px;
  font-weight: 600;
}
.verdict {
  margin: 0;
  padding: 12px 12px 4px;
  font-weight: 600;
}
</style>
