<script setup lang="ts">
/** A BCF file that came from another program: what is new, changed there, changed on both sides; taken as one chooses. */
import { showBcfImport, startBcfImport, takeBcfImport, type FoundTopic } from '@kindred/contract/bcf/bcf';
import type { Response } from '@kindred/contract/platform/operation';
import type { BcfNote } from '@kindred/core/bcf/bcf-file';
import type { BcfField } from '@kindred/core/bcf/compare-topic';
import { bcfNote } from '@kindred/words/bcf';
import { counted } from '@kindred/words/sentence';
import { useQueryCache } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import FileDrop from '../platform/FileDrop.vue';
import { useJobs } from '../platform/jobs-store.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { sendFile } from '../register/send-file.ts';
import { bodyOf, inOrder, sideOf, type FieldSide } from './import-choices.ts';

const emit = defineEmits<{ close: [] }>();
const project = useProject();
const jobs = useJobs();
const cache = useQueryCache();

const reading = ref('');
const problem = ref('');
const read = ref<Response<typeof showBcfImport> & { jobId: string }>();
async function take(file: File): Promise<void> {
  problem.value = '';
  reading.value = `Sending ${file.name} …`;
  await attempt(async () => {
    const uploadId = await sendFile(project.projectId, file, 'bcf', (sent) => {
      reading.value = `Sending ${file.name}, ${Math.round((100 * sent) / file.size)} % …`;
    });
    reading.value = `Reading ${file.name} …`;
    const job = await jobs.ended(await call(startBcfImport, { params: project.params, body: { uploadId } }));
    if (job.status !== 'done') {
      problem.value = job.note || 'This was cancelled. Nothing was changed.';
      return;
    }
    const found = await call(showBcfImport, { params: { ...project.params, jobId: job.id } });
    read.value = { ...found, jobId: job.id };
  });
  reading.value = '';
}

const choices = reactive({ leave: new Set<string>(), sides: new Map<string, FieldSide>() });
const topics = computed(() => inOrder(read.value?.topics ?? []));
const SHOWN = 100;
const shown = ref(SHOWN);
function leaveOut(guid: string): void {
  if (!choices.leave.delete(guid)) choices.leave.add(guid);
}
const FIELD_WORDS: Record<BcfField, string> = {
  ...{ title: 'Title', description: 'Words', type: 'Type', status: 'Status', priority: 'Priority' },
  ...{ assignedTo: 'Answers', due: 'Due', labels: 'Labels' },
};
const FOUND_WORDS: Record<FoundTopic['found'], string> = {
  new: 'new',
  changed: 'changed there',
  conflict: 'changed on both sides',
  same: 'as it is',
};
const counts = computed(() => {
  const of = (found: FoundTopic['found']) => topics.value.filter((one) => one.found === found).length;
  const parts = [
    of('new') && `${of('new')} new`,
    of('changed') && `${of('changed')} changed there`,
    of('conflict') && `${of('conflict')} changed on both sides`,
    read.value?.same && `${read.value.same} as it is here`,
  ];
  return parts.filter(Boolean).join(', ') || 'no topics';
});
const also = ({ found, comments, viewpoints }: FoundTopic): string => {
  const word = found === 'new' ? '' : 'new ';
  return [
    comments ? `${comments} ${word}${comments === 1 ? 'comment' : 'comments'}` : '',
    viewpoints ? `${viewpoints} ${word}${viewpoints === 1 ? 'viewpoint' : 'viewpoints'}` : '',
  ]
    .filter(Boolean)
    .join(', ');
};
const taken = computed(() => topics.value.filter(({ guid }) => !choices.leave.has(guid)).length);
const busy = ref(false);
async function apply(): Promise<void> {
  busy.value = true;
  const params = { ...project.params, jobId: read.value!.jobId };
  const done = await attempt(async () => {
    const job = await jobs.ended(await call(takeBcfImport, { params, body: bodyOf(topics.value, choices) }));
    if (job.status !== 'done') throw new Error(job.note || 'This was cancelled. What was taken until then stays.');
    sayDone(`${read.value!.fileName} is taken in. What came stands under “What left and came in”.`);
  });
  busy.value = false;
  await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
  if (done) emit('close');
}
</script>

<template>
  <AppDialog title="Bring in issues from a BCF file" :width="820" @close="emit('close')">
    <template v-if="!read">
      <FileDrop accept=".bcf,.bcfzip,.zip" label="A BCF file" :busy="reading" :problem="problem" @file="take"
        ><b>Drop a BCF file here, or choose one</b>
        <span class="quiet"
          >Of version 2.1 or 3.0, from any program. You see first what it says; nothing is taken yet.</span
        ></FileDrop
      >
    </template>
    <template v-else>
      <p role="status">
        <b>{{ read.fileName }}</b> <span class="quiet">BCF {{ read.version }}:</span> {{ counts }}
      </p>
      <details v-if="read.notes.length">
        <summary class="quiet">{{ counted(read.notes.length, 'note') }} on what could not be read as it stands</summary>
        <ul>
          <li v-for="(note, i) in read.notes" :key="i">{{ bcfNote(note as BcfNote) }}</li>
        </ul>
      </details>
      <p v-if="!topics.length">It says nothing that is not here already.</p>
      <article v-for="topic in topics.slice(0, shown)" :key="topic.guid" :class="topic.found">
        <div class="row">
          <input
            type="checkbox"
            :checked="!choices.leave.has(topic.guid)"
            :aria-label="`Take ${topic.title}`"
            @change="leaveOut(topic.guid)"
          />
          <span v-if="topic.issue" class="mono">{{ topic.issue.number }}</span>
          <b>{{ topic.title }}</b>
          <span class="found">{{ FOUND_WORDS[topic.found] }}</span>
          <span class="spread" />
          <span class="quiet">{{ also(topic) }}</span>
        </div>
        <table v-if="topic.fields.length && !choices.leave.has(topic.guid)">
          <tbody>
            <tr v-for="one in topic.fields" :key="one.field">
              <th>{{ FIELD_WORDS[one.field] }}</th>
              <td v-for="side in ['mine', 'theirs'] as const" :key="side">
                <label>
                  <input
                    type="radio"
                    :name="`${topic.guid}/${one.field}`"
                    :checked="sideOf(choices, topic.guid, one) === side"
                    @change="choices.sides.set(`${topic.guid}/${one.field}`, side)"
                  />
                  <span class="quiet">{{ side === 'mine' ? 'here' : 'in the file' }}</span> {{ one[side] || 'nothing' }}
                </label>
              </td>
              <td>
                <span v-if="one.found === 'both'" class="sign needs-you">changed here too</span>
              </td>
            </tr>
          </tbody>
        </table>
      </article>
      <p v-if="topics.length > shown">
        <button class="button-link" @click="shown += SHOWN">{{ topics.length - shown }} more</button>
      </p>
    </template>
    <template v-if="read" #footer>
      <div class="row">
        <span class="quiet">What is taken keeps the rules of this project; nothing is taken twice.</span>
        <span class="spread" />
        <el-button @click="emit('close')">Leave it</el-button>
        <el-button type="primary" :disabled="!taken" :loading="busy" @click="apply"
          >Take {{ counted(taken, 'topic') }}</el-button
        >
      </div>
    </template>
  </AppDialog>
</template>

<style scoped>
article {
  padding: 8px 0;
  border-top: 1px solid var(--hairline);
}
.found {
  color: var(--graphite);
}
.conflict .found {
  color: var(--needs-you);
}
table {
  width: 100%;
  margin: 6px 0 0 26px;
  table-layout: fixed;
}
th {
  width: 90px;
  text-align: left;
  font-weight: 500;
  vertical-align: top;
}
td {
  padding: 2px 8px;
  vertical-align: top;
  overflow-wrap: anywhere;
}
td:last-child {
  width: 140px;
}
</style>
