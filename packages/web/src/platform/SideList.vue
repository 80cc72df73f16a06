<script setup lang="ts">
import { ChevronUp } from '@lucide/vue';
import { ref } from 'vue';
import { useSmallScreen } from './small-screen.ts';

/** A list beside the work; on a small screen a sheet that is pulled up over it. */
const props = defineProps<{ title: string; /** What is chosen in it, as the closed sheet says. */ chosen?: string }>();
const small = useSmallScreen();
const open = ref(false);
</script>

<template>
  <aside v-if="!small" class="side" :aria-label="props.title"><slot :close="() => undefined" /></aside>
  <div v-else class="pull">
    <button :aria-expanded="open" @click="open = true">
      <ChevronUp :size="15" /> {{ title }}<span v-if="chosen" class="quiet chosen">{{ chosen }}</span>
    </button>
    <el-drawer v-model="open" direction="btt" size="75%" :title="title" append-to-body>
      <slot :close="() => (open = false)" />
    </el-drawer>
  </div>
</template>

<style scoped>
.side {
  min-height: 0;
  overflow: auto;
  border-right: 1px solid var(--hairline);
}
.pull {
  border-bottom: 1px solid var(--hairline);
  background: var(--sheet);
}
.pull button {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 40px;
  padding: 0 14px;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
}
.chosen {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
