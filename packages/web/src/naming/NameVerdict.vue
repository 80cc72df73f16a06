<script setup lang="ts">
import type { NameVerdict } from '@kindred/core/naming/convention';
import { countProblem, fieldProblem } from '@kindred/words/naming';

defineProps<{ verdict: NameVerdict }>();
</script>

<template>
  <div class="verdict">
    <p v-if="verdict.ok" class="sign action full">conforms</p>
    <p v-if="verdict.problem" class="sign needs-you full">{{ countProblem(verdict.problem) }}</p>
    <template v-for="field in verdict.fields" :key="field.field">
      <p v-if="!field.ok && !(verdict.problem && !field.value)" class="sign needs-you">
        <span>
          <b>{{ field.field }}</b> {{ fieldProblem(field.problem!, field.value)
          }}<template v-if="field.nearest"
            >; nearest is <b class="mono">{{ field.nearest }}</b></template
          >
        </span>
      </p>
    </template>
  </div>
</template>

<style scoped>
.verdict p {
  display: flex;
  white-space: normal;
  margin: 0 0 2px;
  font-size: 12px;
}
</style>
