<script setup lang="ts">
import { addClashRule, changeClashRule, type ClashRule } from '@kindred/contract/clash/clashes';
import { CLASH_IGNORES, CLASH_KINDS, type ClashRule as Content, type RuleSet } from '@kindred/core/clash/rule';
import { listLineUps } from '@kindred/contract/federation/federations';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed, reactive, ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import FormDialog from '../platform/FormDialog.vue';
import { call } from '../platform/api.ts';
import { useProject } from '../portfolio/store.ts';
import { RULE_TEMPLATES } from './rule-templates.ts';
import SetEditor from './SetEditor.vue';
import { IGNORE_WORDS, KIND_WORDS } from './words.ts';

/** Makes a rule of clashes, or changes one. */
const props = defineProps<{ federationId: string; rule?: ClashRule }>();
const emit = defineEmits<{ close: []; done: [id: string] }>();
const project = useProject();
const cache = useQueryCache();
const naming = useNaming();
const fields = computed(() => [
  ...new Set([...naming.byId.values()].flatMap(({ definition }) => definition.fields.map(({ name }) => name))),
]);

interface Form {
  name: string;
  a: RuleSet;
  b: RuleSet;
  kinds: Content['kinds'][number][];
  ignores: Content['ignores'][number][];
  /** Millimetres. */
  tolerance: number;
  clearance: number;
}
const copied = (set: RuleSet) => ({ ...set, conditions: set.conditions.map((condition) => ({ ...condition })) });
const { data: all } = useQuery({
  key: () => [project.projectId, 'line-up'],
  query: () => call(listLineUps, { params: project.params }),
});
const lineUps = computed(() => (all.value ?? []).filter(({ shared }) => shared));
const formOf = ({ name, a, b, kinds, ignores, tolerance, clearance }: Content & { name: string }): Form => ({
  ...{ name, a: copied(a), b: copied(b), kinds: [...kinds], ignores: [...ignores] },
  ...{ tolerance: tolerance * 1000, clearance: clearance * 1000 },
});
const form = reactive(formOf(props.rule ?? RULE_TEMPLATES[0]!));
const template = ref(props.rule ? '' : RULE_TEMPLATES[0]!.name);
const says = computed(() => RULE_TEMPLATES.find(({ name }) => name === template.value)?.says);
function take(name: string): void {
  template.value = name;
  Object.assign(form, formOf(RULE_TEMPLATES.find((one) => one.name === name)!));
}
async function save(): Promise<void> {
  const body = {
    ...{ name: form.name.trim(), kinds: form.kinds, ignores: form.ignores },
    ...{ a: copied(form.a), b: copied(form.b) },
    ...{ tolerance: form.tolerance / 1000, clearance: form.clearance / 1000 },
  };
  const saved = props.rule
    ? await call(changeClashRule, {
        params: { ...project.params, ruleId: props.rule.id },
        body: { ...body, edition: props.rule.edition },
      })
    : await call(addClashRule, { params: project.params, body: { ...body, federationId: props.federationId } });
  await cache.invalidateQueries({ key: [project.projectId, 'clash run'] });
  emit('done', saved.id);
}
</script>

<template>
  <FormDialog
    :title="rule ? 'Change the rule' : 'New rule of clashes'"
    :verb="rule ? 'Save and run' : 'Add and run'"
    :ready="form.name.trim() !== '' && form.kinds.length > 0"
    :run="save"
    :width="640"
    @close="emit('close')"
  >
    <label v-if="!rule" class="field"
      ><span>Begin with</span
      ><el-select :model-value="template" aria-label="Begin with" @update:model-value="take"
        ><el-option v-for="one in RULE_TEMPLATES" :key="one.name" :value="one.name" :label="one.name" /></el-select
      ><small class="quiet">{{ says }}</small></label
    >
    <label class="field"><span>Name</span><el-input v-model="form.name" maxlength="80" /></label>
    <div class="sets">
      <SetEditor v-model="form.a" name="These" :fields="fields" :line-ups="lineUps" />
      <SetEditor v-model="form.b" name="against these" :fields="fields" :line-ups="lineUps" />
    </div>
    <div class="grid">
      <div class="field">
        <span>What counts</span>
        <label v-for="kind in CLASH_KINDS" :key="kind" class="row"
          ><input v-model="form.kinds" type="checkbox" :value="kind" /> {{ KIND_WORDS[kind] }}</label
        >
      </div>
      <div class="field">
        <span>Passed over</span>
        <label v-for="ignore in CLASH_IGNORES" :key="ignore" class="row"
          ><input v-model="form.ignores" type="checkbox" :value="ignore" /> {{ IGNORE_WORDS[ignore] }}</label
        >
      </div>
      <label class="field"
        ><span>Touching is up to, mm</span><el-input-number v-model="form.tolerance" :min="0" :max="1000" :step="1"
      /></label>
      <label v-if="form.kinds.includes('clearance')" class="field"
        ><span>Too near is below, mm</span><el-input-number v-model="form.clearance" :min="1" :max="10000" :step="10"
      /></label>
    </div>
  </FormDialog>
</template>

<style scoped>
.sets {
  display: grid;
  gap: 8px;
  margin-bottom: 12px;
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
}
.grid .field {
  align-content: start;
}
.grid .row {
  gap: 6px;
  min-height: 26px;
}
</style>
