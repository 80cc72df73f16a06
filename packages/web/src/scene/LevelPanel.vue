<script setup lang="ts">
/** Works level by level, or with one discipline: the rest is a trace or nothing. Line-ups keep such a choice. */
import { listLineUps, removeLineUp, saveLineUp, type LineUp } from '@kindred/contract/federation/federations';
import { X } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { elementNumber, rowOf, slotOf } from './engine/element-numbers.ts';
import { LevelFilter, levelsAmong, type LevelChoice } from './level-filter.ts';
import type { LoadedModel } from './models.ts';

const props = defineProps<{
  models: readonly LoadedModel[];
  disciplineOf: (versionId: string) => string;
  /** Containers of the models that are open. */
  open: readonly { containerId: string; versionId: string }[];
  /** Elements that are hidden one by one. */
  hidden: () => readonly number[];
}>();
const emit = defineEmits<{
  isolate: [elements: Iterable<number>, rest: 'hidden' | 'ghost'];
  all: [];
  hide: [elements: readonly number[]];
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
const isHeld = ref(false);
const without = ref(true);
const hiddenIds = (): string[] => {
  const tables = new Map(props.models.map(({ slot, table }) => [slot, table]));
  return props.hidden().flatMap((element) => tables.get(slotOf(element))?.globalId[rowOf(element)] ?? []);
};
async function save(): Promise<void> {
  const { levels, disciplines: chosen } = choice.value;
  const body = {
    ...{ name: name.value.trim(), shared: forEveryone.value, hidden: without.value ? hiddenIds() : [] },
    levels: filter.value.levels.flatMap(({ name, elevation }) => (levels?.includes(name) ? { name, elevation } : [])),
    models: props.open
      .filter(({ versionId }) => !chosen || chosen.includes(props.disciplineOf(versionId)))
      .map(({ containerId, versionId }) => ({ containerId, versionId: isHeld.value ? versionId : null })),
  };
  if (!(await attempt(() => call(saveLineUp, { params: project.params, body })))) return;
  await refetch();
  sayDone(`Line-up “${body.name}” saved${body.shared ? ' for everyone' : ' for you'}.`);
  name.value = '';
}
/** What it hides can be hidden once its models are open. */
const taken = ref<LineUp>();
function take(lineUp: LineUp): void {
  emit('all');
  taken.value = lineUp;
  emit('models', lineUp.versionIds);
}
watch(
  [taken, () => props.models],
  () => {
    const lineUp = taken.value;
    const open = new Set(props.models.map(({ versionId }) => versionId));
    if (!lineUp?.versionIds.every((id) => open.has(id)) || open.size !== lineUp.versionIds.length) return;
    taken.value = undefined;
    const names = levelsAmong(filter.value.levels, lineUp.levels);
    choice.value = { levels: names.length ? names : null, disciplines: null };
    const away = new Set(lineUp.hidden);
    if (!away.size) return;
    const elements = props.models.flatMap(({ slot, table }) =>
      table.globalId.flatMap((id, row) => (away.has(id) ? elementNumber(slot, row) : [])),
    );
    emit('hide', elements);
  },
  { flush: 'post' },
);
const aboutOf = ({ mine, shared, owner, models }: LineUp): string =>
  [mine ? shared && 'for everyone' : owner, models.some(({ versionId }) => versionId) && 'held versions']
    .filter(Boolean)
    .join(', ');
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
    <h3>Line-ups <span class="quiet">models, levels, what is hidden</span></h3>
    <p v-for="one in lineUps" :key="one.id" class="row">
      <button class="button-link" @click="take(one)">{{ one.name }}</button>
      <small class="quiet">{{ aboutOf(one) }}</small>
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
      <label class="row"><input v-model="isHeld" type="checkbox" /> at these versions, not the newest</label>
      <label class="row"><input v-model="without" type="checkbox" /> without what is hidden now</label>
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
