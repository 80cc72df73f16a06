<script setup lang="ts">
/** Markups of a PDF or XFDF file that came back: what is new, changed, answered, in conflict; taken as one chooses. */
import { showMarkupImport, startMarkupImport, takeMarkups, type FoundMarkup } from '@kindred/contract/markup/import';
import type { Response } from '@kindred/contract/platform/operation';
import { KIND_WORDS } from '@kindred/words/markups';
import { counted } from '@kindred/words/sentence';
import { useQueryCache } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import FileDrop from '../platform/FileDrop.vue';
import { useJobs } from '../platform/jobs-store.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { sendFile } from '../register/send-file.ts';
import { MARKUP_LOOK } from './signs.ts';
import { bySheet, choicesOf, type Side } from './brought-in.ts';

const props = defineProps<{ versionId: string; sheetOf: (page: number) => string }>();
const emit = defineEmits<{ close: [] }>();
const project = useProject();
const jobs = useJobs();
const cache = useQueryCache();

const reading = ref('');
const problem = ref('');
const read = ref<Response<typeof showMarkupImport> & { jobId: string }>();
const sides = ref<Record<string, Side>>({});
async function take(file: File): Promise<void> {
  problem.value = '';
  reading.value = `Sending ${file.name} …`;
  await attempt(async () => {
    const uploadId = await sendFile(project.projectId, file, 'markup');
    reading.value = `Reading ${file.name} …`;
    const params = { ...project.params, versionId: props.versionId };
    const job = await jobs.ended(await call(startMarkupImport, { params, body: { uploadId } }));
    if (job.status !== 'done') {
      problem.value = job.note || 'This was cancelled. Nothing was changed.';
      return;
    }
    const found = await call(showMarkupImport, { params: { ...project.params, jobId: job.id } });
    read.value = { ...found, jobId: job.id };
    sides.value = choicesOf(found.found);
  });
  reading.value = '';
}
const sheets = computed(() => bySheet(read.value?.found ?? []));
const chosen = computed(() =>
  Object.entries(sides.value).flatMap(([key, side]) => (side === 'leave' ? [] : [{ key, side }])),
);
const undecided = computed(
  () =>
    (read.value?.found ?? []).filter(({ found, key }) => found === 'conflict' && sides.value[key] === 'leave').length,
);
const SIDE_WORDS: Record<Side, string> = {
  theirs: 'take the file’s',
  ours: 'keep ours, with the answers',
  leave: 'leave out',
};
const FOUND_WORDS: Record<FoundMarkup['found'], string> = {
  new: 'new',
  changed: 'changed there',
  answered: 'answered',
  conflict: 'changed on both sides',
  same: 'as it is',
};
const busy = ref(false);
async function apply(): Promise<void> {
  busy.value = true;
  const params = { ...project.params, jobId: read.value!.jobId };
  const done = await attempt(async () => {
    const { added, changed, answers } = await call(takeMarkups, { params, body: { take: chosen.value } });
    const parts = [added && `${added} new`, changed && `${changed} changed`, answers && counted(answers, 'answer')];
    sayDone(`Brought in: ${parts.filter(Boolean).join(', ') || 'nothing that was not here already'}.`);
  });
  busy.value = false;
  await cache.invalidateQueries({ key: [project.projectId, 'markup'] });
  if (done) emit('close');
}
</script>

<template>
  <AppDialog title="Bring in markups" :width="780" @close="emit('close')">
    <template v-if="!read">
      <FileDrop
        accept=".pdf,.xfdf,application/pdf"
        label="A PDF or XFDF file with markups"
        :busy="reading"
        :problem="problem"
        @file="take"
        ><b>Drop a PDF or an XFDF file here, or choose one</b>
        <span class="quiet"
          >One that was taken along from here and answered elsewhere, or one that somebody marked on their own. You see
          first what it says; nothing is taken yet.</span
        ></FileDrop
      >
    </template>
    <template v-else>
      <p v-if="!sheets.length">
        <b>{{ read.fileName }} says nothing that is not here already.</b>
      </p>
      <p class="quiet">
        {{ counted(read.found.length, 'markup') }} in {{ read.fileName
        }}<template v-if="read.missing"
          >; {{ read.missing }} published here {{ read.missing === 1 ? 'is' : 'are' }} not in it and
          {{ read.missing === 1 ? 'stays' : 'stay' }}</template
        ><template v-if="read.left"
          >; {{ read.left }} {{ read.left === 1 ? 'lies' : 'lie' }} on no sheet of this drawing, or
          {{ read.left === 1 ? 'is no markup' : 'are no markups' }}</template
        >.
      </p>
      <section v-for="sheet in sheets" :key="sheet.page">
        <h3>{{ sheetOf(sheet.page) || `Sheet ${sheet.page}` }}</h3>
        <article v-for="one in sheet.found" :key="one.key" :class="one.found">
          <div class="row">
            <b v-if="one.ours" class="mono">{{ one.ours.number }}</b>
            <span class="found">{{ FOUND_WORDS[one.found] }}</span>
            <span>{{ KIND_WORDS[one.theirs.shape.kind] }}</span>
            <span class="quiet">{{ one.author }}</span>
            <span class="spread" />
            <el-select
              v-model="sides[one.key]"
              size="small"
              style="width: 190px"
              :aria-label="`What becomes of ${one.ours ? `markup ${one.ours.number}` : one.theirs.text || 'this markup'}`"
            >
              <el-option
                v-for="side in one.ours ? (['theirs', 'ours', 'leave'] as const) : (['theirs', 'leave'] as const)"
                :key="side"
                :value="side"
                :label="SIDE_WORDS[side]"
              />
            </el-select>
          </div>
          <div v-if="one.found !== 'new' && one.parts.length" class="sides">
            <p>
              <small class="quiet">here</small>
              <span :class="MARKUP_LOOK[one.ours!.status].sign">{{ one.ours!.status }}</span> {{ one.ours!.text }}
            </p>
            <p>
              <small class="quiet">in the file</small>
              <span :class="MARKUP_LOOK[one.theirs.status].sign">{{ one.theirs.status }}</span> {{ one.theirs.text }}
              <em v-if="one.parts.includes('shape')">at another place, or of another shape</em>
            </p>
          </div>
          <p v-else-if="one.found === 'new'">
            <span :class="MARKUP_LOOK[one.theirs.status].sign">{{ one.theirs.status }}</span>
            {{ one.theirs.text || 'without words' }}
          </p>
          <p v-for="(answer, i) in one.answers" :key="i" class="answer">
            <small class="quiet">{{ answer.author }}</small> {{ answer.text }}
          </p>
        </article>
      </section>
    </template>
    <template #footer>
      <div class="row">
        <span v-if="undecided" class="quiet">{{ counted(undecided, 'conflict') }} left out until you choose</span>
        <span class="spread" />
        <el-button @click="emit('close')">{{ read && !sheets.length ? 'Close' : 'Cancel' }}</el-button>
        <el-button v-if="read && sheets.length" type="primary" :disabled="!chosen.length" :loading="busy" @click="apply"
          >Take {{ counted(chosen.length, 'markup') }}</el-button
        >
      </div>
    </template>
  </AppDialog>
</template>

<style scoped>
h3 {
  margin: 12px 0 2px;
}
article {
  padding: 6px 0;
  border-top: 1px solid var(--hairline);
}
article p {
  margin: 3px 0;
  overflow-wrap: anywhere;
}
.found {
  font-weight: 600;
}
.conflict .found {
  color: var(--needs-you);
}
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.sides small {
  display: block;
}
.answer {
  padding-left: 10px;
  border-left: 2px solid var(--hairline);
}
@media (max-width: 700px) {
  .sides {
    grid-template-columns: 1fr;
  }
  article .row {
    flex-wrap: wrap;
  }
}
</style>
