<script setup lang="ts">
import type { MarkupShape, MarkupStatus } from '@kindred/core/markup/shapes';
import { MARKUP_STATUSES } from '@kindred/core/markup/shapes';
import { KIND_WORDS } from '@kindred/words/markups';
import { ref } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

const props = defineProps<{
  shape: MarkupShape;
  text?: string;
  status?: MarkupStatus;
  saving: boolean;
  verb: string;
}>();
const emit = defineEmits<{ save: [text: string, status: MarkupStatus]; close: [] }>();
const text = ref(props.text ?? '');
const status = ref<MarkupStatus>(props.status ?? 'ask');
const MEANING: Record<MarkupStatus, string> = {
  note: 'nothing is asked',
  ask: 'a question',
  act: 'please change',
  settled: 'done',
  declined: 'will not be done',
};
</script>

<template>
  <AppDialog :title="KIND_WORDS[shape.kind]" :width="420" @close="emit('close')">
    <form id="markup" @submit.prevent="emit('save', text, status)">
      <label class="field"
        ><span>What it says</span><el-input v-model="text" type="textarea" :rows="3" autofocus maxlength="2000"
      /></label>
      <label class="field"
        ><span>Status</span
        ><el-select v-model="status"
          ><el-option v-for="item in MARKUP_STATUSES" :key="item" :value="item" :label="`${item}: ${MEANING[item]}`"
            ><span :class="MARKUP_LOOK[item].sign">{{ item }}</span>
            <span class="quiet">{{ MEANING[item] }}</span></el-option
          ></el-select
        ></label
      >
    </form>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="markup" :loading="saving">{{ verb }}</el-button>
    </template>
  </AppDialog>
</template>
