<script setup lang="ts">
import { removeContainers } from '@kindred/contract/register/bin';
import type { Container } from '@kindred/contract/register/register';
import { counted } from '@kindred/words/sentence';
import { ref } from 'vue';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** Puts containers into the bin. */
const props = defineProps<{ containers: Container[] }>();
const emit = defineEmits<{ close: []; done: [] }>();
const project = useProject();
const reason = ref('');

async function remove(): Promise<void> {
  const body = { containerIds: props.containers.map(({ id }) => id), reason: reason.value.trim() };
  await call(removeContainers, { params: project.params, body });
  sayDone(`${counted(props.containers.length, 'container')} lie in the bin, with all versions.`);
  emit('done');
}
</script>

<template>
  <FormDialog
    title="Put into the bin"
    :verb="`Put ${counted(containers.length, 'container')} into the bin`"
    :ready="reason.trim() !== ''"
    :run="remove"
    @close="emit('close')"
  >
    <p>
      <b v-if="containers.length === 1" class="mono">{{ containers[0]!.code }}</b><b v-else>{{
        counted(containers.length, 'container')
      }}</b>
      with all versions leave the register. Until the day that the bin names they can be restored; after that they are
      gone.
    </p>
    <p class="quiet">
      What was published, sent, reviewed or asked about stays: archive it where it shall not be used any more.
    </p>
    <label class="field"><span>Why</span><el-input v-model="reason" maxlength="500" aria-label="Reason" /></label>
  </FormDialog>
</template>
