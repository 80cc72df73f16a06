<script setup lang="ts">
import { MOST_GROUPS } from '@kindred/contract/platform/limits';
import { groupContainers, type ContainerGroup } from '@kindred/contract/register/register';
import { ListFilter, X } from '@lucide/vue';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { sayProblem } from '../platform/say.ts';
import { day } from '../platform/time.ts';
import { useTypedSearch } from '../platform/typed-search.ts';
import { useProject } from '../portfolio/store.ts';
import { fieldColumn, fieldOf } from './columns.ts';
import { LIST_FILTERS, type RegisterViewState } from './register-view.ts';
import { useRegisterWords } from './words.ts';

/** Search, and filters on any field: their values come with how many containers have them. */
const props = defineProps<{ view: RegisterViewState }>();
const project = useProject();
const words = useRegisterWords();

const typed = useTypedSearch(props.view);

const WORDS: Record<string, string> = {
  kind: 'Kind',
  state: 'State',
  status: 'Status',
  revision: 'Revision',
  classification: 'Classification',
  preparation: 'Preparation',
  teamId: 'Team',
  deliveredBy: 'Delivered by',
};
const choosing = ref('');
const values = ref<ContainerGroup[]>([]);
const open = ref(false);
const from = ref<string | null>(null);
const before = ref<string | null>(null);

async function choose(name: string): Promise<void> {
  choosing.value = name;
  values.value = [];
  const others = { ...props.view.filters.value, [name]: undefined };
  const query = JSON.parse(JSON.stringify({ ...others, by: name })) as { by: string };
  try {
    values.value = await call(groupContainers, { params: project.params, query });
  } catch (error) {
    sayProblem(error);
  }
}
const active = (name: string): string[] => props.view.query(name).split(',').filter(Boolean);
function toggle(name: string, value: string): void {
  const field = fieldOf(name);
  if (field) return props.view.setPart(field, props.view.parts.value[field] === value ? undefined : value);
  const now = active(name);
  const next = now.includes(value) ? now.filter((one) => one !== value) : [...now, value];
  void props.view.set({ [name]: next.join(',') || undefined });
}
const isOn = (name: string, value: string): boolean => {
  const field = fieldOf(name);
  return field ? props.view.parts.value[field] === value : active(name).includes(value);
};
const nextDay = (value: string): string => new Date(Date.parse(value) + 86_400_000).toISOString();
function setDates(): void {
  void props.view.set({
    deliveredFrom: from.value ? new Date(from.value).toISOString() : undefined,
    deliveredBefore: before.value ? nextDay(before.value) : undefined,
  });
  open.value = false;
}

interface Chip {
  key: string;
  text: string;
  remove(): void;
}
const chips = computed((): Chip[] => {
  const { view } = props;
  const lists = LIST_FILTERS.filter((name) => view.query(name)).map((name) => ({
    key: name,
    text: `${WORDS[name]}: ${active(name)
      .map((value) =>
        name === 'deliveredBy' ? (nameOf.value.get(value) ?? 'one person') : words.valueWords(name, value),
      )
      .join(', ')}`,
    remove: () => void view.set({ [name]: undefined }),
  }));
  const parts = Object.entries(view.parts.value).map(([field, value]) => ({
    key: field,
    text: `${field}: ${words.valueWords(fieldColumn(field), value)}`,
    remove: () => view.setPart(field, undefined),
  }));
  const dates = (['deliveredFrom', 'deliveredBefore'] as const)
    .filter((name) => view.query(name))
    .map((name) => ({
      key: name,
      text: `Delivered ${name === 'deliveredFrom' ? 'from' : 'before'} ${day(view.query(name).slice(0, 10))}`,
      remove: () => void view.set({ [name]: undefined }),
    }));
  const flags = (['conflicting', 'reserved'] as const)
    .filter((name) => view.query(name) === '1')
    .map((name) => ({
      key: name,
      text: name === 'conflicting' ? 'To decide' : 'Reserved',
      remove: () => void view.set({ [name]: undefined }),
    }));
  return [...lists, ...parts, ...dates, ...flags];
});
const nameOf = ref(new Map<string, string>());
watch(values, (list) => {
  if (choosing.value === 'deliveredBy') nameOf.value = new Map(list.map(({ value, label }) => [value, label]));
});
function clear(): void {
  for (const chip of chips.value) chip.remove();
}
</script>

<template>
  <el-input v-model="typed" placeholder="Search" clearable style="width: 168px" aria-label="Search the register" />
  <el-popover v-model:visible="open" trigger="click" placement="bottom-start" :width="430">
    <template #reference>
      <el-button><ListFilter :size="14" style="margin-right: 5px" /> Filter</el-button>
    </template>
    <div class="filters">
      <nav aria-label="Fields">
        <button
          v-for="name in LIST_FILTERS"
          :key="name"
          :class="{ here: choosing === name, on: view.query(name) }"
          @click="choose(name)"
        >
          {{ WORDS[name] }}
        </button>
        <button :class="{ here: choosing === 'dates' }" @click="choosing = 'dates'">Delivered</button>
        <button
          :class="{ on: view.query('reserved') }"
          @click="view.set({ reserved: view.query('reserved') ? undefined : '1' })"
        >
          Reserved
        </button>
        <button
          :class="{ on: view.query('conflicting') }"
          @click="view.set({ conflicting: view.query('conflicting') ? undefined : '1' })"
        >
          To decide
        </button>
        <small class="quiet">Parts of the code</small>
        <button
          v-for="field in words.fields.value"
          :key="field"
          :class="{ here: choosing === fieldColumn(field), on: view.parts.value[field] }"
          @click="choose(fieldColumn(field))"
        >
          {{ field }}
        </button>
      </nav>
      <div class="values">
        <p v-if="!choosing" class="quiet">Choose a field: its values stand here, with how many containers have each.</p>
        <form v-else-if="choosing === 'dates'" @submit.prevent="setDates">
          <label>From <el-date-picker v-model="from" value-format="YYYY-MM-DD" format="D MMM YYYY" /></label>
          <label
            >Up to and with <el-date-picker v-model="before" value-format="YYYY-MM-DD" format="D MMM YYYY"
          /></label>
          <el-button native-type="submit" type="primary" size="small">Filter</el-button>
        </form>
        <template v-else>
          <label v-for="group in values" :key="group.value" class="value">
            <input type="checkbox" :checked="isOn(choosing, group.value)" @change="toggle(choosing, group.value)" />
            <span class="spread">{{ words.valueWords(choosing, group.value, group.label) }}</span>
            <span class="mono quiet">{{ group.count }}</span>
          </label>
          <p v-if="values.length >= MOST_GROUPS" class="quiet">
            These are the {{ MOST_GROUPS }} with the most containers. Search finds the others.
          </p>
        </template>
      </div>
    </div>
  </el-popover>
  <div v-if="chips.length" class="chips">
    <span v-for="chip in chips" :key="chip.key" class="chip"
      ><span>{{ chip.text }}</span
      ><button :aria-label="`Remove the filter ${chip.text}`" @click="chip.remove()"><X :size="12" /></button
    ></span>
    <button v-if="chips.length > 1" class="button-link" @click="clear">Clear</button>
  </div>
</template>

<style scoped>
.filters {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 12px;
  height: 380px;
}
nav {
  min-height: 0;
  display: grid;
  align-content: start;
  border-right: 1px solid var(--hairline);
  overflow: auto;
}
nav button {
  border: 0;
  background: none;
  font: inherit;
  font-size: 12px;
  text-align: left;
  padding: 3px 6px;
  color: var(--ink);
  cursor: pointer;
}
nav button.here {
  background: var(--action-wash);
}
nav button.on {
  font-weight: 600;
  color: var(--action);
}
nav small {
  padding: 8px 6px 2px;
}
.values {
  overflow: auto;
  font-size: 12px;
}
.values form,
.values form label {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.value {
  display: flex;
  gap: 7px;
  align-items: center;
  padding: 3px 0;
}
.chips {
  order: 9;
  flex-basis: 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.chip {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  max-width: 230px;
  padding: 2px 4px 2px 8px;
  border: 1px solid var(--action);
  border-radius: 3px;
  background: var(--action-wash);
  font-size: 12px;
}
.chip span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.chip button {
  border: 0;
  background: none;
  padding: 2px;
  display: flex;
  cursor: pointer;
  color: var(--ink);
}
</style>
