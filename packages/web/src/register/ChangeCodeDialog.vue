<script setup lang="ts">
import { changeCode } from '@kindred/contract/register/bin';
import type { Container } from '@kindred/contract/register/register';
import { checkName, nearestName } from '@kindred/core/naming/convention';
import { computed, reactive } from 'vue';
import ComposeName from '../naming/ComposeName.vue';
import NameVerdict from '../naming/NameVerdict.vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from './folders-store.ts';

/** Repairs the code of a container that is in the register already. */
const { container } = defineProps<{ container: Container }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const folders = useFolders();
const form = reactive({ code: container.code, reason: '' });
const convention = computed(() => folders.conventionIn(container.folderId));
const verdict = computed(() => (convention.value ? checkName(convention.value, form.code.trim()) : undefined));
const nearest = computed(() => convention.value && verdict.value && nearestName(convention.value, verdict.value));
const ready = computed(
  () => Boolean(verdict.value?.ok) && form.code.trim() !== container.code && form.reason.trim() !== '',
);

async function change(): Promise<void> {
  const code = form.code.trim();
  const params = { ...project.params, containerId: container.id };
  await call(changeCode, { params, body: { code, reason: form.reason.trim() } });
  sayDone(`${container.code} is ${code} from now on.`);
  emit('done');
}
</script>

<template>
  <FormDialog title="Repair the code" verb="Change the code" :ready="ready" :run="change" @close="emit('close')">
    <div class="field">
      <span>Code</span>
      <div class="row">
        <el-input v-model="form.code" class="mono" maxlength="200" aria-label="Code" />
        <ComposeName v-model="form.code" :convention="convention" />
      </div>
      <NameVerdict v-if="verdict" :verdict="verdict" />
      <button v-if="nearest" type="button" class="button-link nearest" @click="form.code = nearest">
        Use <span class="mono">{{ nearest }}</span>
      </button>
    </div>
    <label class="field"
      ><span>Why: others may look for it under its old code</span
      ><el-input v-model="form.reason" maxlength="500" aria-label="Reason"
    /></label>
    <p class="quiet">
      All versions go along. The files keep their names, and what was sent keeps the code that it was sent with.
    </p>
  </FormDialog>
</template>

<style scoped>
.nearest {
  justify-self: start;
}
</style>
