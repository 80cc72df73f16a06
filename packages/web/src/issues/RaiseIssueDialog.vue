<script setup lang="ts">
import { raiseIssue } from '@kindred/contract/issues/issues';
import { listPeople } from '@kindred/contract/people/people';
import { ISSUE_PRIORITIES, ISSUE_TYPES, type IssuePriority, type IssueType } from '@kindred/core/issues/states';
import { useQuery, useQueryCache } from '@pinia/colada';
import { reactive, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{
  place?: { versionId: string; page: number; x: number; y: number };
  picture?: string;
  prepareViewpoint?: (name: string) => Promise<string>;
}>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const project = useProject();
const cache = useQueryCache();
const { data: people } = useQuery({
  key: () => [project.projectId, 'person'],
  query: () => call(listPeople, { params: project.params }),
});
const form = reactive({
  title: '',
  description: '',
  type: 'question' as IssueType,
  priority: 'normal' as IssuePriority,
  assigneeId: null as string | null,
  dueOn: null as string | null,
});
const busy = ref(false);

async function raise(): Promise<void> {
  busy.value = true;
  await attempt(async () => {
    const viewpointId = (await props.prepareViewpoint?.(form.title)) ?? null;
    const issue = await call(raiseIssue, {
      params: project.params,
      body: { ...form, viewpointId, place: props.place ?? null },
    });
    await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
    emit('close');
    await router.push({ name: 'issue', params: { projectId: project.projectId, issueId: issue.id } });
  });
  busy.value = false;
}
</script>

<template>
  <AppDialog title="Raise an issue" :width="560" @close="emit('close')">
    <form id="raise-issue" @submit.prevent="raise">
      <img v-if="picture" :src="picture" alt="What the issue is about" class="picture" />
      <label class="field"><span>Title</span><el-input v-model="form.title" maxlength="200" autofocus /></label>
      <label class="field"
        ><span>What is asked, or wrong</span><el-input v-model="form.description" type="textarea" :rows="3"
      /></label>
      <div class="grid">
        <label class="field"
          ><span>Type</span
          ><el-select v-model="form.type"
            ><el-option v-for="type in ISSUE_TYPES" :key="type" :value="type" :label="type" /></el-select
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
          ><el-select v-model="form.assigneeId" clearable filterable default-first-option placeholder="nobody yet"
            ><el-option
              v-for="member in people?.members"
              :key="member.id"
              :value="member.person.id"
              :label="member.person.name"
              >{{ member.person.name }} <span class="quiet">{{ member.party?.code }}</span></el-option
            ></el-select
          ></label
        >
        <label class="field"
          ><span>Due</span
          ><el-date-picker v-model="form.dueOn" value-format="YYYY-MM-DD" format="D MMM YYYY" style="width: 100%"
        /></label>
      </div>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="raise-issue" :disabled="!form.title.trim()" :loading="busy"
        >Raise issue</el-button
      >
    </template>
  </AppDialog>
</template>

<style scoped>
.picture {
  width: 100%;
  max-height: 190px;
  object-fit: cover;
  border: 1px solid var(--hairline);
  margin-bottom: 10px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
}
</style>
