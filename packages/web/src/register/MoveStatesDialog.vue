<script setup lang="ts">
import { moveStates, type Container } from '@kindred/contract/register/register';
import { listShareSets } from '@kindred/contract/register/share-sets';
import { next } from '@kindred/core/platform/machine';
import { containerTransitions, type ContainerAction } from '@kindred/core/register/states';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { ApiProblem, call } from '../platform/api.ts';
import { sayDone, sayProblem } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** Moves one or many to another state: says what will happen to how many, and at a closed gate what stands against it. */
const props = defineProps<{ containers: Container[]; action: ContainerAction }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const reason = ref('');
const shareSetId = ref('');
const problems = ref<{ path: string; message: string }[]>([]);
const saving = ref(false);
const left = ref(new Set<string>());

const fitting = computed(() =>
  props.containers.filter(({ state, id }) => next(containerTransitions, state, props.action) && !left.value.has(id)),
);
const others = computed(() => props.containers.length - fitting.value.length);
/** Drawings and models have what a share set chooses. */
const canBeNarrowed = computed(() => props.containers.some(({ kind }) => kind === 'drawing' || kind === 'model'));
const { data: shareSets } = useQuery({
  key: () => [project.projectId, 'share set'],
  query: () => call(listShareSets, { params: project.params }),
  enabled: () => props.action === 'share' && canBeNarrowed.value,
});

const WORDS: Record<ContainerAction, { title: string; does: string }> = {
  share: { title: 'Share', does: 'All teams of the project will see what is work in progress now.' },
  publish: { title: 'Publish', does: 'They count as agreed and may be used for what their status says.' },
  archive: {
    title: 'Archive',
    does: 'They are out of use: they stay as they are and take no more versions, until somebody who manages the register brings them back.',
  },
  'bring back': {
    title: 'Bring back',
    does: 'They come back from the archive as shared, and take versions again. To be published they pass that gate anew.',
  },
  withdraw: {
    title: 'Withdraw',
    does: 'Others go back to the version before, or lose sight of it where there is none; they are not asked.',
  },
};

const needsReason = computed(() => props.action === 'withdraw' || props.action === 'bring back');

async function move(): Promise<void> {
  saving.value = true;
  problems.value = [];
  try {
    const body = {
      containerIds: fitting.value.map(({ id }) => id),
      action: props.action,
      ...(reason.value.trim() && { reason: reason.value.trim() }),
      ...(shareSetId.value && { shareSetId: shareSetId.value }),
    };
    await call(moveStates, { params: project.params, body });
    sayDone(`${fitting.value.length === 1 ? fitting.value[0]!.code : `${fitting.value.length} containers`}: done.`);
    emit('done');
  } catch (error) {
    if (error instanceof ApiProblem && error.problem.code === 'gate-closed')
      problems.value = error.problem.fields ?? [];
    else sayProblem(error);
  } finally {
    saving.value = false;
  }
}
/** Those that may not pass stay as they are; the others can go on. */
function leaveOut(): void {
  const codes = new Set(problems.value.map(({ path }) => path));
  left.value = new Set(props.containers.filter(({ code }) => codes.has(code)).map(({ id }) => id));
  problems.value = [];
}
const blocked = computed(() => new Set(problems.value.map(({ path }) => path)).size);
</script>

<template>
  <AppDialog :title="WORDS[action].title" :width="560" @close="emit('close')">
    <p>
      <b v-if="fitting.length === 1" class="mono">{{ fitting[0]!.code }}</b><b v-else>{{ fitting.length }} containers</b
      >. {{ WORDS[action].does }}
    </p>
    <p v-if="others" class="quiet">
      {{ others }} of those chosen {{ others === 1 ? 'stays as it is' : 'stay as they are' }}.
    </p>
    <label v-if="action === 'share' && shareSets?.length" class="field"
      >What others see of it
      <el-select v-model="shareSetId" placeholder="All sheets and viewpoints" clearable aria-label="Share set"
        ><el-option
          v-for="set in shareSets"
          :key="set.id"
          :value="set.id"
          :label="`${set.name}: ${set.sheetNumbers.length} sheets, ${set.viewpointIds.length} viewpoints`"
      /></el-select>
    </label>
    <label v-if="needsReason" class="field"
      >Why: others rely on it as it is
      <el-input v-model="reason" type="textarea" :rows="2" maxlength="500" aria-label="Reason" />
    </label>
    <div v-if="problems.length" class="problems" role="alert">
      <p>
        <span class="sign needs-you full"
          >{{ blocked }} of {{ fitting.length }} may not pass. Nothing was changed.</span
        >
      </p>
      <ul>
        <li v-for="(problem, i) in problems" :key="i">
          <span class="mono">{{ problem.path }}</span>: {{ problem.message }}
        </li>
      </ul>
      <button v-if="blocked < fitting.length" class="button-link" @click="leaveOut">
        Leave these out and go on with the other {{ fitting.length - blocked }}
      </button>
    </div>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button
        type="primary"
        :loading="saving"
        :disabled="!fitting.length || (needsReason && !reason.trim())"
        @click="move"
        >{{ WORDS[action].title }} {{ fitting.length > 1 ? fitting.length : '' }}</el-button
      >
    </template>
  </AppDialog>
</template>

<style scoped>
.field {
  display: grid;
  gap: 4px;
  margin-top: 10px;
}
.problems {
  margin-top: 12px;
  max-height: 220px;
  overflow: auto;
}
ul {
  margin: 4px 0 8px;
  padding-left: 18px;
}
</style>
