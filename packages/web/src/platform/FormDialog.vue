<script setup lang="ts">
import { ref, useId } from 'vue';
import { attempt } from './say.ts';

/** A dialog that asks for something and does it: Enter does it too, it waits meanwhile, and what is refused is said. */
const { run } = defineProps<{
  title: string;
  verb: string;
  ready: boolean;
  run: () => Promise<unknown>;
  width?: number;
}>();
const emit = defineEmits<{ close: [] }>();
const id = useId();
const busy = ref(false);

async function submit(): Promise<void> {
  busy.value = true;
  const done = await attempt(run);
  busy.value = false;
  if (done) emit('close');
}
</script>

<template>
  <AppDialog :title="title" :width="width" @close="emit('close')">
    <form :id="id" @submit.prevent="ready && !busy && submit()"><slot /></form>
    <template #footer>
      <div class="row">
        <slot name="also" />
        <span class="spread" />
        <el-button @click="emit('close')">Cancel</el-button>
        <el-button type="primary" native-type="submit" :form="id" :disabled="!ready" :loading="busy">{{
          verb
        }}</el-button>
      </div>
    </template>
  </AppDialog>
</template>
