<script setup lang="ts">
/** Words and status of what was just drawn, beside it on the sheet. Escape lets go, Ctrl Enter saves. */
import { MARKUP_STATUSES, type MarkupShape, type MarkupStatus } from '@kindred/core/markup/shapes';
import { KIND_WORDS } from '@kindred/words/markups';
import { nextTick, onMounted, ref } from 'vue';
import { MARKUP_LOOK } from './signs.ts';

const props = defineProps<{
  shape: MarkupShape;
  text?: string;
  saving: boolean;
  /** Where it stands, pixels of the table, whose size is given too. */
  at: readonly [x: number, y: number];
  window: readonly [width: number, height: number];
}>();
const emit = defineEmits<{ save: [text: string, status: MarkupStatus]; close: [] }>();
const text = ref(props.text ?? '');
const status = ref<MarkupStatus>('ask');
const card = ref<HTMLElement>();
const MEANING: Record<MarkupStatus, string> = {
  note: 'nothing is asked',
  ask: 'a question',
  act: 'please change',
  settled: 'done',
  declined: 'will not be done',
};
const [WIDTH, HEIGHT] = [280, 190];
const place = {
  left: `${Math.max(8, Math.min(props.at[0], props.window[0] - WIDTH - 8))}px`,
  top: `${Math.max(8, Math.min(props.at[1], props.window[1] - HEIGHT - 8))}px`,
};
onMounted(async () => {
  await nextTick();
  card.value?.querySelector('textarea')?.focus();
});
</script>

<template>
  <form
    ref="card"
    role="dialog"
    :aria-label="KIND_WORDS[shape.kind]"
    class="editor"
    :style="place"
    @submit.prevent="emit('save', text, status)"
    @keydown.esc.stop="emit('close')"
    @keydown.ctrl.enter="emit('save', text, status)"
    @pointerdown.stop
    @wheel.stop
  >
    <el-input
      v-model="text"
      type="textarea"
      :rows="3"
      maxlength="2000"
      :placeholder="`What the ${KIND_WORDS[shape.kind].toLowerCase()} says`"
      aria-label="What it says"
    />
    <div class="statuses" role="radiogroup" aria-label="Status">
      <label v-for="item in MARKUP_STATUSES" :key="item" :title="MEANING[item]" :class="{ active: status === item }"
        ><input v-model="status" type="radio" name="markup-status" :value="item" />
        <span :class="MARKUP_LOOK[item].sign">{{ item }}</span></label
      >
    </div>
    <div class="row">
      <small class="quiet">{{ MEANING[status] }}</small>
      <span class="spread" />
      <el-button size="small" @click="emit('close')">Cancel</el-button>
      <el-button size="small" type="primary" native-type="submit" :loading="saving">Save as draft</el-button>
    </div>
  </form>
</template>

<style scoped>
.editor {
  position: absolute;
  z-index: 3;
  display: grid;
  gap: 6px;
  width: 280px;
  padding: 8px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--sheet);
  box-shadow: var(--el-box-shadow-light);
}
.statuses {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
}
.statuses label {
  padding: 2px 5px;
  border: 1px solid transparent;
  border-radius: 3px;
  font-size: 12px;
  cursor: pointer;
}
.statuses label.active {
  border-color: var(--action);
  background: var(--action-wash);
}
.statuses label:focus-within {
  outline: 2px solid var(--action);
}
.statuses input {
  position: absolute;
  opacity: 0;
}
</style>
