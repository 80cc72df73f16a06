<script setup lang="ts">
import { checkName, exampleName, type Convention } from '@kindred/core/naming/convention';
import { ListTree } from '@lucide/vue';
import { computed, ref } from 'vue';

/** Puts a name together, field by field, from what the convention allows; begins with what can be read from the name. */
const props = defineProps<{ convention: Convention | undefined }>();
const name = defineModel<string>({ required: true });
const open = ref(false);
const parts = ref<string[]>([]);

function begin(): void {
  const { convention } = props;
  if (!convention) return;
  parts.value = checkName(convention, name.value).fields.map(({ ok, value, nearest }) =>
    ok ? value : (nearest ?? (value || '')),
  );
}
const composed = computed(() => parts.value.join(props.convention?.separator ?? '-'));
const verdict = computed(() => (props.convention ? checkName(props.convention, composed.value) : null));
const isWrong = (i: number): boolean => verdict.value?.fields[i]?.ok === false;
function use(): void {
  name.value = composed.value;
  open.value = false;
}
</script>

<template>
  <!-- Built when it is opened: a list of files has one in each row. -->
  <el-popover
    v-if="convention"
    v-model:visible="open"
    trigger="click"
    placement="top-start"
    :width="420"
    :persistent="false"
    @show="begin"
  >
    <template #reference>
      <button class="button-link" aria-label="Compose the name" title="Compose the name from its parts">
        <ListTree :size="15" />
      </button>
    </template>
    <div class="compose" @keydown.stop>
      <p class="mono result" :class="{ wrong: !verdict?.ok }">{{ composed }}</p>
      <div v-for="(field, i) in convention.fields" :key="field.name" class="part">
        <span :class="{ wrong: isWrong(i) }">{{ field.name }}</span>
        <el-select
          v-if="field.kind === 'list'"
          v-model="parts[i]"
          filterable
          default-first-option
          size="small"
          :aria-label="field.name"
          :teleported="false"
          ><el-option
            v-for="value in field.values"
            :key="value.code"
            :value="value.code"
            :label="`${value.code} ${value.meaning}`"
        /></el-select>
        <el-input v-else v-model="parts[i]" size="small" class="mono" :aria-label="field.name" />
      </div>
      <p class="quiet">For example {{ exampleName(convention) }}</p>
      <el-button type="primary" size="small" :disabled="!verdict?.ok" @click="use">Use this name</el-button>
    </div>
  </el-popover>
</template>

<style scoped>
.compose {
  display: grid;
  gap: 5px;
  justify-items: start;
}
.part {
  display: grid;
  grid-template-columns: 110px 260px;
  align-items: center;
  gap: 8px;
}
.result {
  font-size: 14px;
  margin: 0 0 4px;
}
.wrong {
  color: var(--needs-you);
}
p {
  margin: 4px 0;
}
</style>
