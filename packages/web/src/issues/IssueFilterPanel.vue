<script setup lang="ts">
/** Search, and filters on any field: their values come with how many issues have them. */
import { groupIssues, type IssueFilters, type IssueGroup, type IssueGroupBy } from '@kindred/contract/issues/issues';
import { ListFilter, X } from '@lucide/vue';
import { computed, ref, watch } from 'vue';
import { call } from '../platform/api.ts';
import { sayProblem } from '../platform/say.ts';
import { day } from '../platform/time.ts';
import { useTypedSearch } from '../platform/typed-search.ts';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import type { IssueViewState } from './issue-view.ts';

const props = defineProps<{ view: IssueViewState }>();
const project = useProject();
const people = usePeople();

const typed = useTypedSearch(props.view);

const FIELDS: Record<IssueGroupBy, string> = {
  status: 'Status',
  type: 'Type',
  priority: 'Priority',
  responsible: 'Who answers',
  team: 'Team that answers',
  label: 'Label',
  raisedBy: 'Raised by',
};
const open = ref(false);
const choosing = ref<IssueGroupBy>();
const values = ref<IssueGroup[]>([]);
const dates = ref<Record<'dueFrom' | 'dueTo' | 'raisedFrom' | 'raisedTo', string | undefined>>({
  dueFrom: undefined,
  dueTo: undefined,
  raisedFrom: undefined,
  raisedTo: undefined,
});
async function choose(field: IssueGroupBy): Promise<void> {
  choosing.value = field;
  values.value = [];
  const { [field]: _own, ...others } = props.view.filters.value;
  void _own;
  try {
    values.value = await call(groupIssues, { params: project.params, query: { ...others, by: field } });
  } catch (error) {
    sayProblem(error);
  }
}
const valueOf = (field: IssueGroupBy, { value }: IssueGroup): string => value || (field === 'label' ? '-' : 'nobody');
const isOn = (field: string, value: string): boolean => props.view.query(field).split(',').includes(value);
watch(open, (now) => {
  if (!now) return;
  choosing.value = undefined;
  for (const name of Object.keys(dates.value) as (keyof typeof dates.value)[])
    dates.value[name] = props.view.query(name) || undefined;
});
function setDates(): void {
  void props.view.set({ ...dates.value });
  open.value = false;
}

/** What an id is called. */
const named = computed(
  () =>
    new Map<string, string>([
      ...people.members.map(({ person }) => [person.id, person.name] as const),
      ...(people.data?.teams ?? []).map(({ id, name }) => [id, name] as const),
      ...(people.data?.roles ?? []).map(({ id, name }) => [id, name] as const),
      ['me', 'I'],
      ['nobody', 'nobody'],
      ['-', 'none'],
    ]),
);
const PARTS = { answer: 'For me to answer', verify: 'For me to verify', watch: 'I watch' };
interface Chip {
  key: string;
  text: string;
  remove: () => void;
}
const chips = computed((): Chip[] => {
  const take = (name: string) => () => void props.view.set({ [name]: undefined });
  const range = (word: string, from: 'dueFrom' | 'raisedFrom', to: 'dueTo' | 'raisedTo'): Chip[] => {
    const [first, last] = [props.view.query(from), props.view.query(to)];
    if (!first && !last) return [];
    const text = [first && `from ${day(first)}`, last && `to ${day(last)}`].filter(Boolean).join(' ');
    return [
      { key: from, text: `${word} ${text}`, remove: () => void props.view.set({ [from]: undefined, [to]: undefined }) },
    ];
  };
  const fields = (Object.keys(FIELDS) as IssueGroupBy[]).flatMap((field) =>
    props.view
      .query(field)
      .split(',')
      .filter(Boolean)
      .map((value) => ({
        key: `${field}/${value}`,
        text: `${FIELDS[field]}: ${named.value.get(value) ?? value}`,
        remove: () => props.view.toggle(field, value),
      })),
  );
  const part = props.view.query('part') as keyof typeof PARTS | '';
  return [
    ...(part ? [{ key: 'part', text: PARTS[part], remove: take('part') }] : []),
    ...fields,
    ...(props.view.query('overdue') ? [{ key: 'overdue', text: 'overdue', remove: take('overdue') }] : []),
    ...range('Due', 'dueFrom', 'dueTo'),
    ...range('Raised', 'raisedFrom', 'raisedTo'),
    ...(['versionId', 'containerId', 'markupId'] as const).flatMap((name) =>
      props.view.query(name) ? [{ key: name, text: 'At one place', remove: take(name) }] : [],
    ),
  ];
});
const set = (filters: IssueFilters) => void props.view.set(filters as Record<string, string | undefined>);
</script>

<template>
  <el-input
    v-model="typed"
    placeholder="Number, title, words"
    clearable
    style="width: 190px"
    aria-label="Search issues"
  />
  <el-popover v-model:visible="open" trigger="click" placement="bottom-start" :width="360">
    <template #reference>
      <el-button data-help="issues/filter"><ListFilter :size="14" style="margin-right: 5px" /> Filter</el-button>
    </template>
    <div v-if="!choosing" class="fields">
      <button v-for="(word, part) in PARTS" :key="part" class="button-link" @click="set({ part })">{{ word }}</button>
      <button class="button-link" @click="view.set({ overdue: view.query('overdue') ? undefined : 'true' })">
        Overdue
      </button>
      <hr />
      <button v-for="(word, field) in FIELDS" :key="field" class="button-link" @click="choose(field)">
        {{ word }} …
      </button>
      <hr />
      <form class="dates" @submit.prevent="setDates">
        <template v-for="(word, name) in { due: 'Due', raised: 'Raised' }" :key="name">
          <span>{{ word }}</span>
          <el-date-picker
            v-model="dates[`${name}From`]"
            size="small"
            value-format="YYYY-MM-DD"
            format="D MMM YYYY"
            placeholder="from"
            :aria-label="`${word} from`"
          />
          <el-date-picker
            v-model="dates[`${name}To`]"
            size="small"
            value-format="YYYY-MM-DD"
            format="D MMM YYYY"
            placeholder="to"
            :aria-label="`${word} to`"
          />
        </template>
        <el-button size="small" native-type="submit">Set days</el-button>
      </form>
    </div>
    <template v-else>
      <p class="row">
        <b>{{ FIELDS[choosing] }}</b><span class="spread" /><button class="button-link" @click="choosing = undefined">
          All fields
        </button>
      </p>
      <label v-for="group in values" :key="group.value" class="value">
        <input
          type="checkbox"
          :checked="isOn(choosing, valueOf(choosing, group))"
          @change="view.toggle(choosing, valueOf(choosing, group))"
        />
        {{ group.label || 'none' }} <span class="mono quiet">{{ group.count }}</span>
      </label>
      <p v-if="!values.length" class="quiet">Nothing to choose from.</p>
    </template>
  </el-popover>
  <span v-for="chip in chips" :key="chip.key" class="chip"
    >{{ chip.text }}<button :aria-label="`Take away: ${chip.text}`" @click="chip.remove"><X :size="12" /></button
  ></span>
  <button v-if="chips.length > 1" class="button-link" @click="view.clear()">Clear all</button>
</template>

<style scoped>
.fields {
  display: grid;
  justify-items: start;
  gap: 3px;
}
hr {
  width: 100%;
  border: 0;
  border-top: 1px solid var(--hairline);
}
.dates {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 1fr);
  gap: 6px;
  align-items: center;
}
.dates :deep(.el-date-editor) {
  width: 100%;
}
.value {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
}
.chip {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  padding: 2px 4px 2px 8px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--sheet);
  font-size: 12px;
}
.chip button {
  display: inline-flex;
  border: 0;
  background: none;
  cursor: pointer;
  color: var(--graphite);
}
</style>
