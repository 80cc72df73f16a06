<script setup lang="ts">
import { counted } from '@kindred/words/sentence';
import { reactive } from 'vue';
import FormDialog from '../platform/FormDialog.vue';

/** Accepts clashes: with a reason, and until a day where it is not for good. */
const props = defineProps<{
  count: number;
  run: (accepted: { reason: string; until: string | null }) => Promise<unknown>;
}>();
const emit = defineEmits<{ close: [] }>();
const form = reactive({ reason: '', until: null as string | null });
const accept = (): Promise<unknown> => props.run({ reason: form.reason.trim(), until: form.until });
</script>

<template>
  <FormDialog
    :title="`Accept ${counted(count, 'clash', 'clashes')}`"
    :verb="`Accept ${counted(count, 'clash', 'clashes')}`"
    :ready="form.reason.trim() !== ''"
    :run="accept"
    @close="emit('close')"
  >
    <label class="field"
      ><span>Why is it all right?</span><el-input v-model="form.reason" maxlength="500" autofocus
    /></label>
    <label class="field"
      ><span>Until</span
      ><el-date-picker
        v-model="form.until"
        value-format="YYYY-MM-DD"
        format="D MMM YYYY"
        placeholder="for good"
        style="width: 100%"
    /></label>
    <p class="quiet">Everybody sees who accepted it and why. It can be taken up again at any time.</p>
  </FormDialog>
</template>
