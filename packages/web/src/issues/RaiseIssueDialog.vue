<script setup lang="ts">
import { raiseIssue } from '@kindred/contract/issues/issues';
import type { Member } from '@kindred/contract/people/people';
import { ISSUE_PRIORITIES, ISSUE_TYPES, type IssuePriority, type IssueType } from '@kindred/core/issues/states';
import { useQueryCache } from '@pinia/colada';
import { reactive } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sendFile } from '../register/send-file.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{
  place?: { versionId: string; page: number; x: number; y: number };
  picture?: string;
  /** What it looked like; they are kept with the issue. */
  pictures?: readonly { caption: string; file: Blob; address: string }[];
  /** `question` where nothing is said. */
  type?: IssueType;
  /** What it is about, as a title to begin with. */
  about?: string;
  /** The markup that it is raised from, and what it says. */
  markup?: { id: string; text: string };
  prepareViewpoint?: (name: string) => Promise<string>;
  /** Before its page is shown. */
  raised?: (issueId: string) => Promise<unknown>;
}>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const project = useProject();
const cache = useQueryCache();
const people = usePeople();
const form = reactive({
  title: (props.markup?.text.split('\n')[0] ?? props.about ?? '').slice(0, 200),
  description: props.markup?.text ?? '',
  type: props.type ?? 'question',
  priority: 'normal' as IssuePriority,
  assigneeId: null as string | null,
  dueOn: null as string | null,
});
const codeOf = ({ party }: Member): string => party?.code ?? '';

async function raise(): Promise<void> {
  const pictures = [];
  for (const { caption, file } of props.pictures ?? [])
    pictures.push({
      caption,
      uploadId: await sendFile(project.projectId, new File([file], `${caption}.png`), 'issue'),
    });
  const viewpointId = (await props.prepareViewpoint?.(form.title)) ?? null;
  const issue = await call(raiseIssue, {
    params: project.params,
    body: { ...form, viewpointId, place: props.place ?? null, markupId: props.markup?.id ?? null, pictures },
  });
  await props.raised?.(issue.id);
  await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
  await router.push({ name: 'issue', params: { projectId: project.projectId, issueId: issue.id } });
}
</script>

<template>
  <FormDialog
    title="Raise an issue"
    verb="Raise issue"
    :ready="form.title.trim() !== ''"
    :run="raise"
    @close="emit('close')"
  >
    <img v-if="picture" :src="picture" alt="What the issue is about" class="picture" />
    <div v-if="pictures?.length" class="pictures">
      <figure v-for="one in pictures" :key="one.caption">
        <img :src="one.address" :alt="one.caption" />
        <figcaption class="quiet">{{ one.caption }}</figcaption>
      </figure>
    </div>
    <label class="field"><span>Title</span><el-input v-model="form.title" maxlength="200" autofocus /></label>
    <label class="field"
      ><span>What is asked, or wrong</span><el-input v-model="form.description" type="textarea" :rows="3"
    /></label>
    <div class="grid">
      <label class="field"
        ><span>Type</span
        ><el-select v-model="form.type"
          ><el-option v-for="one in ISSUE_TYPES" :key="one" :value="one" :label="one" /></el-select
      ></label>
      <label class="field"
        ><span>Priority</span
        ><el-select v-model="form.priority"
          ><el-option
            v-for="priority in ISSUE_PRIORITIES"
            :key="priority"
            :value="priority"
            :label="priority" /></el-select
      ></label>
      <label class="field"
        ><span>Responsible</span
        ><PersonSelect v-model="form.assigneeId" :members="people.members" :note="codeOf" placeholder="nobody yet"
      /></label>
      <label class="field"
        ><span>Due</span
        ><el-date-picker v-model="form.dueOn" value-format="YYYY-MM-DD" format="D MMM YYYY" style="width: 100%"
      /></label>
    </div>
  </FormDialog>
</template>

<style scoped>
.picture {
  width: 100%;
  max-height: 190px;
  object-fit: cover;
  border: 1px solid var(--hairline);
  margin-bottom: 10px;
}
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin-bottom: 10px;
}
.pictures figure {
  margin: 0;
}
.pictures img {
  width: 100%;
  border: 1px solid var(--hairline);
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
}
</style>
