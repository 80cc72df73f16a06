<script setup lang="ts">
/** Works level by level, or with one discipline: the rest is a trace or nothing. Line-ups keep such a choice. */
import { listLineUps, removeLineUp, saveLineUp, type LineUp } from '@kindred/contract/federation/federations';
import { X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { LevelFilter, type LevelChoice } from './level-filter.ts';
import type { LoadedModel } from './models.ts';

const props = defineProps<{
  models: readonly LoadedModel[];
  disciplineOf: (versionId: string) => string;
  /** Containers of the models that are open, with their version where it is not the newest. */
  open: readonly { containerId: string; versionId: string | null }[];
}>();
const emit = defineEmits<{
  isolate: [elements: Iterable<number>, rest: 'hidden' | 'ghost'];
  all: [];
  /** Another choice of models. */
  models: [versionIds: string[]];
}>();
const project = useProject();
const filter = computed(() => new LevelFilter(props.models));
const disciplines = computed(() =>
  [...new Set(props.models.map(({ versionId }) => props.disciplineOf(versionId)))].sort(),
);
const choice = ref<LevelChoice>({ levels: null, disciplines: null });
const rest = ref<'hidden' | 'ghost'>('ghost');
const isAll = computed(() => choice.value.levels === null && choice.value.disciplines === null);

watch([choice, rest, filter], () => {
  if (!isAll.value) emit('isolate', filter.value.elements(choice.value, props.disciplineOf), rest.value);
});
function showAll(): void {
  choice.value = { levels: null, disciplines: null };
  emit('all');
}
/** The first choice takes that one alone; further ones come to it. */
function toggle(part: keyof LevelChoice, name: string): void {
  const chosen = choice.value[part];
  const next = chosen?.includes(name) ? chosen.filter((one) => one !== name) : [...(chosen ?? []), name];
  const left = next.length ? next : null;
  choice.value = { ...choice.value, [part]: left };
  if (isAll.value) emit('all');
}

const { data: lineUps, refetch } = useQuery({
  key: () => [project.projectId, 'line-up'],
  query: () => call(listLineUps, { params: project.params }),
});
const name = ref('');
const forEveryone = ref(false);
async function save(): Promise<void> {
  const body = {
    ...{ name: name.value.trim(), shared: forEveryone.value, levels: [...(choice.value.levels ?? [])], hidden: [] },
    models: props.open.map((one) => ({ ...one })),
  };
  if (!(await attempt(() => call(saveLineUp, { params: project.params, body })))) return;
  await refetch();
  sayDone(`Line-up “${body.name}” saved${body.shared ? ' for everyone' : ' for you'}.`);
  name.value = '';
}
function take({ versionIds, levels }: LineUp): void {
  choice.value = { levels: levels.length ? levels : null, disciplines: null };
  emit('models', versionIds);
}
async function remove({ id }: LineUp): Promise<void> {
  await attempt(() => call(removeLineUp, { params: { ...project.params, lineUpId: id } }));
  await refetch();
}
</script>

<template>
  <div class="levels">
    <h3>Levels <span class="quiet">of all models</span></h3>
    <button
      v-for="level in filter.levels.toReversed()"
      :key="level.name"
      class="one"
      :aria-pressed="choice.levels?.includes(level.name) ?? false"
      @click="toggle('levels', level.name)"
    >
      <span>{{ level.name }}</span> <span class="mono quiet">{{ level.elements }}</span>
    </button>
    <h3>Disciplines</h3>
    <button
      v-for="discipline in disciplines"
      :key="discipline"
      class="one"
      :aria-pressed="choice.disciplines?.includes(discipline) ?? false"
      @click="toggle('disciplines', discipline)"
    >
      {{ discipline }}
    </button>
    <p class="row">
      <label class="quiet"
        >the rest
        <select v-model="rest">
          <option value="ghost">as traces</option>
          <option value="hidden">not at all</option>
        </select></label
      >
      <button v-if="!isAll" class="button-link" @click="showAll">Everything again</button>
    </p>
    <h3>Line-ups <span class="quiet">models and levels</span></h3>
    <p v-for="one in lineUps" :key="one.id" class="row">
      <button class="button-link" @click="take(one)">{{ one.name }}</button>
      <small class="quiet">{{ one.mine ? (one.shared ? 'for everyone' : '') : one.owner }}</small>
      <button v-if="one.mine || project.view?.me.administrator" :title="`Remove ${one.name}`" @click="remove(one)">
        <X :size="13" />
      </button>
    </p>
    <form v-if="open.length" @submit.prevent="name.trim() && save()">
      <el-input
        v-model="name"
        size="small"
        maxlength="80"
        placeholder="Keep this as …"
        aria-label="Name of the line-up"
      />
      <label class="row"><input v-model="forEveryone" type="checkbox" /> for everyone</label>
      <el-button native-type="submit" size="small" :disabled="!name.trim()">Save line-up</el-button>
    </form>
  </div>
</template>

<style scoped>
.levels {
  padding: 6px 12px 12px 0;
  overflow: auto;
  font-size: 12px;
}
h3 {
  margin: 10px 0 4px;
  font-size: 12px;
  font-weight: 600;
}
.one {
  display: flex;
  justify-content: space-between;
  width: 100%;
  min-height: 26px;
  align-items: center;
  padding: 0 8px;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.one[aria-pressed='true'] {
  border-left-color: var(--action);
  background: var(--wash);
  font-weight: 600;
}
.row {
  gap: 8px;
  margin: 4px 0;
}
.row > button:not(.button-link) {
  display: flex;
  border: 0;
  background: none;
  cursor: pointer;
}
select {
  font: inherit;
  min-height: 24px;
}
form {
  display: grid;
  gap: 6px;
  justify-items: start;
}
</style>
