<script setup lang="ts">
/** Markups of many drawings leave together, in one ZIP with a list of all. */
import { startMarkupSetExport } from '@kindred/contract/markup/markup';
import { MARKUP_STATUSES, type MarkupStatus } from '@kindred/core/markup/shapes';
import { ref } from 'vue';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import FormDialog from '../platform/FormDialog.vue';
import { call } from '../platform/api.ts';
import { useJobs } from '../platform/jobs-store.ts';
import { useProject } from '../portfolio/store.ts';
import { COPY_WORDS, type MarkedCopyKind } from './copy-words.ts';

const emit = defineEmits<{ close: [] }>();
const project = useProject();
const people = usePeople();
const jobs = useJobs();
const as = ref<MarkedCopyKind>('pdf');
const status = ref<MarkupStatus | 'all'>('all');
const author = ref<string | null>(null);
async function start(): Promise<void> {
  const body = {
    as: as.value,
    ...(status.value !== 'all' && { status: status.value }),
    ...(author.value && { author: author.value }),
  };
  await jobs.follow(await call(startMarkupSetExport, { params: project.params, body }));
}
</script>

<template>
  <FormDialog title="Take markups along" verb="Make the files" :ready="true" :run="start" @close="emit('close')">
    <p>
      Each drawing that has published markups becomes one file, in its newest version; a list of all comes with them.
    </p>
    <label class="field"
      ><span>As</span
      ><el-select v-model="as"
        ><el-option v-for="(words, kind) in COPY_WORDS" :key="kind" :value="kind" :label="words" /></el-select
    ></label>
    <label class="field"
      ><span>Status</span
      ><el-select v-model="status"
        ><el-option value="all" label="all" /><el-option
          v-for="one in MARKUP_STATUSES"
          :key="one"
          :value="one"
          :label="one" /></el-select
    ></label>
    <label class="field"
      ><span>Author</span><PersonSelect v-model="author" :members="people.members" placeholder="all"
    /></label>
  </FormDialog>
</template>
