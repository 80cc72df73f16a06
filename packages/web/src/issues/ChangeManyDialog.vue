<script setup lang="ts">
/** Changes fields of many issues at once; what is left alone stays as it is in each. */
import type { Issue, ResponsibleRef } from '@kindred/contract/issues/issues';
import { ISSUE_ACTIONS, type IssueAction } from '@kindred/core/issues/states';
import { counted } from '@kindred/words/sentence';
import { computed, reactive } from 'vue';
import FormDialog from '../platform/FormDialog.vue';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import { useChangeIssues, type IssueChanges } from './change-issues.ts';
import DueField from './DueField.vue';
import ResponsibleSelect from './ResponsibleSelect.vue';
import { STEP_WORDS } from './signs.ts';
import { useIssueSettings } from './store.ts';

const props = defineProps<{ issues: readonly Issue[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const people = usePeople();
const kept = useIssueSettings();
const change = useChangeIssues();
const form = reactive({
  type: undefined as string | undefined,
  priority: undefined as string | undefined,
  responsible: null as ResponsibleRef | null,
  verifierId: null as string | null,
  dueOn: null as string | null,
  addLabels: [] as string[],
  removeLabels: [] as string[],
  action: undefined as IssueAction | undefined,
  reason: '',
});
const present = computed(() => [...new Set(props.issues.flatMap(({ labels }) => labels))].sort());
function changesOf({ labels }: Issue): IssueChanges {
  const { type, priority, responsible, verifierId, dueOn, addLabels, removeLabels, action, reason } = form;
  return {
    ...(type && { type }),
    ...(priority && { priority }),
    ...(responsible && { responsible }),
    ...(verifierId && { verifierId }),
    ...(dueOn && { dueOn }),
    ...((addLabels.length || removeLabels.length) && {
      labels: [...new Set([...labels, ...addLabels])].filter((label) => !removeLabels.includes(label)),
    }),
    ...(action && { action, reason }),
  };
}
const ready = computed(() => Object.keys(changesOf(props.issues[0]!)).length > 0);
async function run(): Promise<void> {
  const done = await change(props.issues, changesOf);
  if (done.length) emit('done');
}
</script>

<template>
  <FormDialog
    :title="`Change ${counted(issues.length, 'issue')}`"
    verb="Change"
    :ready="ready"
    :run="run"
    @close="emit('close')"
  >
    <div class="grid">
      <label class="field"
        ><span>Type</span
        ><el-select v-model="form.type" clearable placeholder="as it is"
          ><el-option v-for="{ name } in kept.settings.types" :key="name" :value="name" :label="name" /></el-select
      ></label>
      <label class="field"
        ><span>Priority</span
        ><el-select v-model="form.priority" clearable placeholder="as it is"
          ><el-option v-for="{ name } in kept.settings.priorities" :key="name" :value="name" :label="name" /></el-select
      ></label>
      <label class="field"
        ><span>Who answers</span
        ><ResponsibleSelect
          v-model="form.responsible"
          placeholder="as it is"
          :members="people.members"
          :teams="people.data?.teams ?? []"
          :roles="people.data?.roles ?? []"
      /></label>
      <label class="field"
        ><span>Verifies the answer</span
        ><PersonSelect v-model="form.verifierId" :members="people.members" placeholder="as it is"
      /></label>
      <label class="field"
        ><span>Add labels</span
        ><el-select v-model="form.addLabels" multiple filterable placeholder="none"
          ><el-option v-for="label in kept.settings.labels" :key="label" :value="label" :label="label" /></el-select
      ></label>
      <label class="field"
        ><span>Take labels away</span
        ><el-select v-model="form.removeLabels" multiple filterable placeholder="none"
          ><el-option v-for="label in present" :key="label" :value="label" :label="label" /></el-select
      ></label>
      <div class="field">
        <span>Due</span><DueField v-model="form.dueOn" :holidays="project.view?.project.holidays ?? []" />
      </div>
      <label class="field"
        ><span>Step</span
        ><el-select v-model="form.action" clearable placeholder="none"
          ><el-option
            v-for="action in ISSUE_ACTIONS"
            :key="action"
            :value="action"
            :label="STEP_WORDS[action]" /></el-select
      ></label>
    </div>
    <label v-if="form.action" class="field"><span>Why</span><el-input v-model="form.reason" maxlength="1000" /></label>
    <p class="quiet">Each is changed for itself: what you may not change, or what somebody changed meanwhile, stays.</p>
  </FormDialog>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
  align-items: start;
}
</style>
