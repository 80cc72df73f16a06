<script setup lang="ts">
import { confirmSheets, listSheets, type Sheet } from '@kindred/contract/drawing/drawing';
import { downloadVersion } from '@kindred/contract/register/register';
import { useQuery } from '@pinia/colada';
import { counted } from '@kindred/words/sentence';
import { computed, onBeforeUnmount, reactive, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { addressOf, call } from '../platform/api.ts';
import { attempt, sayDone, sayProblem } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { openPdf, type SheetSource } from './table/sources.ts';

/** What was read from the title blocks of a drawing, beside the page itself, to be corrected before it counts. */
const props = defineProps<{ versionId: string }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const FIELDS = [
  { key: 'number', word: 'Number', width: '130px' },
  { key: 'title', word: 'Title', width: '1fr' },
  { key: 'revision', word: 'Rev', width: '58px' },
  { key: 'scale', word: 'Scale', width: '84px' },
  { key: 'date', word: 'Date', width: '96px' },
] as const;
const rows = reactive<Sheet[]>([]);
const recognised = computed(() => rows.filter(({ recognition }) => recognition === 'recognised').length);
const shown = ref(1);
const saving = ref(false);
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'sheets', props.versionId],
  query: () => call(listSheets, { params: { ...project.params, versionId: props.versionId } }),
});
watch(
  data,
  (sheets) => {
    if (sheets && !rows.length)
      rows.push(...sheets.map((sheet) => ({ ...sheet, ...(sheet.confirmed ? {} : sheet.proposed) })));
  },
  { immediate: true },
);

const source = shallowRef<SheetSource>();
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const WIDTH = 900;
let drawing: AbortController | undefined;
void openPdf(addressOf(downloadVersion, { ...project.params, versionId: props.versionId }))
  .then((opened) => (source.value = opened))
  .catch(sayProblem);
onBeforeUnmount(() => source.value?.close());
/** The lower right quarter of the page, where title blocks usually stand. */
watch([source, shown, canvas], async ([opened, page, target]) => {
  if (!opened || !target) return;
  drawing?.abort();
  drawing = new AbortController();
  const [width, height] = await opened.size(page);
  const scale = WIDTH / (width / 2);
  target.width = WIDTH;
  target.height = Math.round((height / 2) * scale);
  const view = { x: (-width / 2) * scale, y: (-height / 2) * scale, zoom: scale, turn: 0 as const };
  const picture = await opened.draw(page, view, [target.width, target.height], 1, drawing.signal);
  if (picture) target.getContext('2d')!.drawImage(picture, 0, 0);
  picture?.close();
});

async function save(): Promise<void> {
  saving.value = true;
  const sheets = rows.map(({ page, number, title, revision, status, scale, date }) => ({
    page,
    number: number.trim(),
    title: title.trim(),
    revision: revision.trim(),
    status,
    scale: scale.trim(),
    date: date.trim(),
  }));
  const params = { ...project.params, versionId: props.versionId };
  const done = await attempt(() => call(confirmSheets, { params, body: { sheets } }));
  saving.value = false;
  if (!done) return;
  sayDone(`${sheets.length} ${sheets.length === 1 ? 'sheet counts' : 'sheets count'} from now on.`);
  emit('done');
}
</script>

<template>
  <AppDialog title="Sheets as their title blocks say" :width="960" top="4vh" @close="emit('close')">
    <p v-if="recognised" class="quiet">
      {{ counted(recognised, 'sheet') }} of this drawing {{ recognised === 1 ? 'is a picture' : 'are pictures' }}: what
      stands below was recognised from the pixels. Compare each field before you let it count.
    </p>
    <div class="preview"><canvas ref="canvas" aria-label="Title block of the chosen sheet" /></div>
    <div class="sheets">
      <div class="line head" :style="{ gridTemplateColumns: `34px ${FIELDS.map(({ width }) => width).join(' ')}` }">
        <span>Page</span><span v-for="field in FIELDS" :key="field.key">{{ field.word }}</span>
      </div>
      <div
        v-for="row in rows"
        :key="row.page"
        class="line"
        :class="{ here: row.page === shown }"
        :style="{ gridTemplateColumns: `34px ${FIELDS.map(({ width }) => width).join(' ')}` }"
        @focusin="shown = row.page"
      >
        <button class="button-link mono" @click="shown = row.page">{{ row.page }}</button>
        <el-input
          v-for="field in FIELDS"
          :key="field.key"
          v-model="row[field.key]"
          size="small"
          :class="{ mono: field.key !== 'title' }"
          :aria-label="`${field.word} of page ${row.page}`"
        />
      </div>
    </div>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :loading="saving" :disabled="!rows.length" @click="save">Let them count</el-button>
    </template>
  </AppDialog>
</template>

<style scoped>
.preview {
  height: 270px;
  overflow: auto;
  border: 1px solid var(--hairline);
  background: var(--paper);
  display: flex;
  align-items: flex-end;
}
.sheets {
  max-height: 240px;
  overflow: auto;
  margin-top: 10px;
}
.line {
  display: grid;
  gap: 6px;
  align-items: center;
  padding: 2px 4px;
}
.line.head {
  color: var(--graphite);
  font-size: 12px;
}
.line.here {
  background: var(--action-wash);
}
</style>
