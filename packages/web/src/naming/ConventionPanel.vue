<script setup lang="ts">
import { conventionProblem } from '@kindred/words/naming';
import {
  changeConvention,
  listConventionEditions,
  removeConvention,
  type Convention,
} from '@kindred/contract/naming/naming';
import { checkName, exampleName, type Field } from '@kindred/core/naming/convention';
import { ArrowLeft, ArrowRight, Plus, Trash2 } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref, toRef } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import { useConventionDraft } from './convention-draft.ts';
import FieldEditor from './FieldEditor.vue';
import NameVerdict from './NameVerdict.vue';
import { useNaming } from './store.ts';

const props = defineProps<{
  convention: Convention;
  /** Folders that name the convention. */ usedBy: readonly { id: string; path: string }[];
}>();
const emit = defineEmits<{ removed: [] }>();
const project = useProject();
const naming = useNaming();
const people = usePeople();
const time = useTime();
const { draft, from, effect, problems, dirty, overtaken, reset, setKind, addField, moveField } = useConventionDraft(
  toRef(props, 'convention'),
);
const params = computed(() => ({ ...project.params, conventionId: props.convention.id }));
const readonly = computed(() => !project.may('naming', 'manage'));
const at = ref(0);
const reason = ref('');
const tried = ref('');
const field = computed(() => draft.value.fields[at.value]);
const example = computed(() => exampleName(draft.value));
const verdict = computed(() =>
  tried.value.trim() && !problems.value.length ? checkName(draft.value, tried.value.trim()) : null,
);
const { data: editions, refetch: refetchEditions } = useQuery({
  key: () => [project.projectId, 'convention', props.convention.id, 'editions'],
  query: () => call(listConventionEditions, { params: params.value }),
});
const summary = (one: Field): string =>
  one.kind === 'list'
    ? `${one.values.length} ${one.values.length === 1 ? 'value' : 'values'}`
    : one.kind === 'number'
      ? `${one.length ?? `${one.minLength ?? 1} to ${one.maxLength ?? '…'}`} digits`
      : one.pattern;

async function save(isDefault = false): Promise<void> {
  await attempt(async () => {
    const saved = await call(changeConvention, {
      params: params.value,
      body: {
        edition: from.value,
        definition: draft.value,
        reason: reason.value.trim(),
        ...(isDefault && { isDefault }),
      },
    });
    reason.value = '';
    reset(saved);
    sayDone(`Edition ${saved.edition} of “${saved.definition.name}” holds from now on.`);
    await Promise.all([naming.refetch(), refetchEditions()]);
  });
}
async function remove(): Promise<void> {
  await attempt(async () => {
    await call(removeConvention, { params: params.value });
    emit('removed');
    await naming.refetch();
  });
}
function removeField(i: number): void {
  draft.value.fields.splice(i, 1);
  at.value = Math.min(at.value, draft.value.fields.length - 1);
}
onBeforeRouteLeave(() => !dirty.value || window.confirm('The new edition is not saved. Leave it behind?'));
</script>

<template>
  <div>
    <div class="row head">
      <label class="field" style="width: 260px"
        ><span>Name of the convention</span><el-input v-model="draft.name" :disabled="readonly" maxlength="80"
      /></label>
      <label class="field" style="width: 86px"
        ><span>Separator</span><el-input v-model="draft.separator" :disabled="readonly" maxlength="3" class="mono"
      /></label>
      <div class="field" style="flex: 1">
        <span>A name as it will be</span><b class="mono example" data-test="example">{{ example }}</b>
      </div>
      <template v-if="!readonly && !convention.isDefault">
        <el-button @click="save(true)">Make it the project’s first</el-button>
        <el-button :disabled="usedBy.length > 0" @click="remove">Remove</el-button>
      </template>
    </div>
    <div class="strip">
      <div v-arrow-keys="'[role=tab]'" class="tabs" role="tablist" aria-label="Fields of the convention">
        <template v-for="(one, i) in draft.fields" :key="i">
          <span v-if="i" class="mono joint" aria-hidden="true">{{ draft.separator }}</span>
          <button role="tab" :aria-selected="i === at" :class="{ here: i === at }" @click="at = i">
            <b>{{ one.name || '…' }}</b>
            <small class="quiet">{{ summary(one) }}</small>
          </button>
        </template>
      </div>
      <button v-if="!readonly" class="plus" @click="(addField(), (at = draft.fields.length - 1))">
        <Plus :size="14" /> Field
      </button>
    </div>
    <div v-if="field" class="panel">
      <div v-if="!readonly" class="row move">
        <button class="button-link" :disabled="at === 0" @click="(moveField(at, -1), at--)">
          <ArrowLeft :size="13" /> Earlier
        </button>
        <button class="button-link" :disabled="at === draft.fields.length - 1" @click="(moveField(at, 1), at++)">
          Later <ArrowRight :size="13" />
        </button>
        <span class="spread" />
        <button class="button-link" :disabled="draft.fields.length === 1" @click="removeField(at)">
          <Trash2 :size="13" /> Remove this field
        </button>
      </div>
      <FieldEditor
        :companies="people.data?.parties ?? []"
        :key="at"
        v-model="draft.fields[at]!"
        :separator="draft.separator"
        :readonly="readonly"
        @kind="setKind(at, $event)"
      />
    </div>
    <p v-for="problem in problems" :key="problem.path + problem.code" class="sign needs-you full" style="display: flex">
      {{ conventionProblem(problem) }}
    </p>

    <section v-if="dirty && !problems.length" class="effect" aria-label="Effect on existing names">
      <p v-if="overtaken" class="sign caution full">
        Someone made edition {{ convention.edition }} meanwhile; yours began from {{ from }}.
        <button class="button-link after" @click="reset()">Take theirs</button>
        <button class="button-link after" @click="from = convention.edition">Keep mine</button>
      </p>
      <template v-if="effect">
        <p>
          <b>Effect on {{ effect.names }} names:</b>
          <span class="sign after" :class="effect.stop ? 'needs-you full' : 'action full'"
            >{{ effect.stop }} stop conforming</span
          >
          <span class="sign after info">{{ effect.start }} begin to conform</span>
        </p>
        <p v-if="effect.stop" class="mono names">
          <RouterLink
            v-for="one in effect.stopping"
            :key="one.containerId"
            :to="{ name: 'container', params: { ...project.params, containerId: one.containerId } }"
            target="_blank"
            >{{ one.code }}</RouterLink
          >
          <span v-if="effect.stop > effect.stopping.length" class="quiet"
            >and {{ effect.stop - effect.stopping.length }} more</span
          >
        </p>
        <p v-if="effect.stop" class="quiet">
          They stay in the register as they are; only new deliveries are held to the new edition.
        </p>
      </template>
      <p v-else class="quiet">Looking at the names that exist …</p>
      <div v-if="!readonly" class="row">
        <el-input
          v-model="reason"
          placeholder="Why, for those who read the editions later"
          maxlength="300"
          aria-label="Reason"
        />
        <el-button @click="reset()">Discard</el-button>
        <el-button type="primary" :disabled="!effect" @click="save()"
          >Make edition {{ convention.edition + 1 }}</el-button
        >
      </div>
    </section>

    <div class="two">
      <section>
        <h2>Try a name</h2>
        <el-input v-model="tried" :placeholder="example" class="mono" aria-label="Name to try" />
        <NameVerdict v-if="verdict" :verdict="verdict" style="margin-top: 8px" />
        <h2 style="margin-top: 18px">Where it holds</h2>
        <p v-if="convention.isDefault">Everywhere that no folder names another convention.</p>
        <p v-for="one in usedBy" :key="one.id">
          <RouterLink :to="{ name: 'folders', params: { ...project.params, folderId: one.id } }">{{
            one.path
          }}</RouterLink>
          and below
        </p>
        <p v-if="!convention.isDefault && !usedBy.length" class="quiet">
          Nowhere yet: a folder names it under Folders.
        </p>
      </section>
      <section>
        <h2>Editions</h2>
        <table class="plain-table">
          <tbody>
            <tr v-for="one in editions" :key="one.edition">
              <td class="mono right">{{ one.edition }}</td>
              <td>{{ time.short(one.at) }}</td>
              <td>{{ one.author?.name }}</td>
              <td>{{ one.reason }}</td>
              <td class="right">
                <button
                  v-if="!readonly && one.edition !== convention.edition"
                  class="button-link"
                  @click="draft = JSON.parse(JSON.stringify(one.definition))"
                >
                  Take as draft
                </button>
                <span v-else-if="one.edition === convention.edition" class="sign full action">holds</span>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
  </div>
</template>

<style scoped>
.head {
  align-items: end;
  gap: 14px;
}
.head .el-button {
  margin-bottom: 10px;
}
.example {
  font-size: 14px;
  line-height: 30px;
}
.tabs {
  display: contents;
}
.strip {
  display: flex;
  align-items: stretch;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  overflow-x: auto;
}
.strip button {
  flex: 1;
  min-width: 92px;
  display: grid;
  gap: 2px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  padding: 8px 10px;
  cursor: pointer;
}
.strip button small {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.strip button:hover {
  background: var(--wash);
}
.strip button.here {
  border-bottom-color: var(--action);
  background: var(--action-wash);
}
.strip .plus {
  flex: none;
  display: flex;
  align-items: center;
  gap: 4px;
  color: var(--action);
}
.joint {
  align-self: center;
  color: var(--graphite);
}
.panel {
  position: relative;
}
.move {
  gap: 16px;
  padding: 6px 14px 0;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  border-width: 0 1px;
}
.move .button-link {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.move .button-link:disabled {
  color: #a9a292;
  cursor: default;
}
.effect {
  margin-top: 12px;
  padding: 12px 14px;
  border: 1px solid var(--caution);
  background: var(--sheet);
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  max-height: 96px;
  overflow: auto;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1.2fr;
  gap: 36px;
  margin-top: 20px;
}
h2 {
  margin-bottom: 6px;
}
</style>
