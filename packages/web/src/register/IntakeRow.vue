<script setup lang="ts">
/** One file whose name does not conform: the name it gets, its verdict, its values, and where it goes. */
import type { Container } from '@kindred/contract/register/register';
import type { Convention } from '@kindred/core/naming/convention';
import { computed } from 'vue';
import ComposeName from '../naming/ComposeName.vue';
import NameVerdict from '../naming/NameVerdict.vue';
import { useTime } from '../platform/time.ts';
import type { Judged } from './intake-verdicts.ts';
import type { Repair } from './intake-repairs.ts';

const props = defineProps<{
  container: Container;
  convention: Convention | undefined;
  judged: Judged | undefined;
  statuses: readonly { code: string; meaning: string }[];
  folders: readonly { id: string; path: string }[];
  mayRepair: boolean;
  mayAllow: boolean;
  mayDiscard: boolean;
  saving: boolean;
  /** Among others: the button for all of them is the first one then. */
  among: boolean;
}>();
const wanted = defineModel<Repair>({ required: true });
defineEmits<{
  repair: [];
  'as-version': [];
  discard: [];
  allow: [value: { field: string; code: string }];
}>();
const time = useTime();
const isTaken = computed(() => wanted.value.problem.includes('in the register already'));
const nearest = computed(() => (props.mayRepair ? props.judged?.nearest : undefined));
</script>

<template>
  <div role="cell">
    <b class="mono file">{{ container.fileName }}</b><br />{{ container.deliveredBy }}<br /><span class="quiet">{{
      time.moment(container.deliveredAt)
    }}</span>
  </div>
  <div role="cell">
    <div class="row">
      <el-input
        v-model="wanted.code"
        class="mono"
        size="small"
        :disabled="!mayRepair"
        :aria-label="`New code for ${container.code}`"
      />
      <ComposeName v-if="mayRepair" v-model="wanted.code" :convention="convention" />
      <el-input v-if="mayRepair" v-model="wanted.title" size="small" placeholder="Title" aria-label="Title" />
    </div>
    <NameVerdict v-if="judged" :verdict="judged.verdict" style="margin-top: 4px" />
    <button
      v-if="nearest"
      class="button-link"
      title="Take the nearest allowed values"
      @click.stop="wanted.code = nearest"
    >
      Use <span class="mono">{{ nearest }}</span>
    </button>
    <p v-if="wanted.problem" class="sign needs-you full problem">{{ wanted.problem }}</p>
    <div v-if="mayRepair" class="row values">
      <el-select
        v-model="wanted.status"
        size="small"
        placeholder="Status"
        style="width: 78px; flex: none"
        aria-label="Status"
        :persistent="false"
        ><el-option v-for="code in statuses" :key="code.code" :value="code.code" :label="code.code"
          ><span class="mono">{{ code.code }}</span> {{ code.meaning }}</el-option
        ></el-select
      >
      <el-input
        v-model="wanted.revision"
        size="small"
        style="width: 62px; flex: none"
        class="mono"
        placeholder="Rev"
        aria-label="Revision"
      />
      <el-input
        v-model="wanted.classification"
        size="small"
        style="width: 76px; flex: none"
        class="mono"
        placeholder="Class"
        aria-label="Classification"
      />
      <el-select
        v-model="wanted.folderId"
        size="small"
        filterable
        default-first-option
        style="width: 170px; flex: none"
        aria-label="Folder"
        ><el-option v-for="folder in folders" :key="folder.id" :value="folder.id" :label="folder.path"
      /></el-select>
    </div>
    <template v-if="mayAllow">
      <button
        v-for="value in judged?.missing"
        :key="value.field"
        class="button-link"
        style="margin-right: 14px"
        @click.stop="$emit('allow', value)"
      >
        Allow “{{ value.code }}” in {{ value.field }}
      </button>
    </template>
  </div>
  <div role="cell" class="acts">
    <el-button
      v-if="mayRepair"
      :type="among ? '' : 'primary'"
      size="small"
      :disabled="!judged?.verdict.ok || saving"
      @click="$emit('repair')"
      >To the register</el-button
    >
    <button v-if="isTaken" class="button-link" @click="$emit('as-version')">Make it the next version</button>
    <button v-if="mayDiscard" class="button-link quiet" @click.stop="$emit('discard')">Take away</button>
  </div>
</template>

<style scoped>
.file {
  overflow-wrap: anywhere;
}
.values {
  margin: 5px 0 3px;
  flex-wrap: wrap;
}
.problem {
  margin: 3px 0;
  white-space: normal;
}
.acts {
  display: grid;
  gap: 6px;
  justify-items: end;
  align-content: start;
}
</style>
