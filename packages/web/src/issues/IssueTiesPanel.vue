<script setup lang="ts">
/** What an issue is tied to: other issues, things of other kinds, elements. */
import type { IssueView } from '@kindred/contract/issues/issues';
import { listIssues } from '@kindred/contract/issues/issues';
import {
  ISSUE_RELATIONS,
  relateIssue,
  tieIssue,
  unrelateIssue,
  untieIssue,
  type IssueRelationKind,
} from '@kindred/contract/issues/ties';
import { jump, type Thing } from '@kindred/contract/things/things';
import { relationWords } from '@kindred/words/issues';
import { X } from '@lucide/vue';
import { useQueryCache } from '@pinia/colada';
import { computed, ref } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { ISSUE_SIGNS } from './signs.ts';

const props = defineProps<{ view: IssueView }>();
const project = useProject();
const cache = useQueryCache();
const params = computed(() => ({ ...project.params, issueId: props.view.issue.id }));
const mayTie = computed(() => project.may('issues', 'add'));
async function tie(run: () => Promise<unknown>): Promise<void> {
  await attempt(run);
  found.value = [];
  await cache.invalidateQueries({ key: [project.projectId, 'issue', props.view.issue.id] });
}

/** Relations, and `about` for things of other kinds. */
type How = IssueRelationKind | 'about';
const how = ref<How>();
interface Option {
  id: string;
  type: string;
  title: string;
  note: string;
}
const found = ref<Option[]>([]);
async function find(words: string): Promise<void> {
  const q = words.trim();
  if (!q) return void (found.value = []);
  await attempt(async () => {
    if (how.value === 'about') {
      const things = await call(jump, { params: project.params, query: { q } });
      found.value = things.filter(({ type }) => type !== 'issue' && type !== 'person');
    } else {
      const { items } = await call(listIssues, { params: project.params, query: { q, limit: 20 } });
      found.value = items
        .filter(({ id }) => id !== props.view.issue.id)
        .map(({ id, number, title, status }) => ({ id, type: 'issue', title: `${number} ${title}`, note: status }));
    }
  });
}
async function choose(key: string): Promise<void> {
  const option = found.value.find(({ id }) => id === key);
  const kind = how.value;
  how.value = undefined;
  if (!option || !kind) return;
  await tie(() =>
    kind === 'about'
      ? call(tieIssue, { params: params.value, body: { type: option.type, id: option.id } })
      : call(relateIssue, { params: params.value, body: { kind, issueId: option.id } }),
  );
}
const untie = ({ type, id }: Thing) => tie(() => call(untieIssue, { params: params.value, body: { type, id } }));
const unrelate = (relationId: string) => tie(() => call(unrelateIssue, { params: { ...params.value, relationId } }));
const CHOICES: { how: How; word: string }[] = [
  ...ISSUE_RELATIONS.map((kind) => ({ how: kind, word: `This ${relationWords(kind, false)} …` })),
  { how: 'about', word: 'It is also about …' },
];
const SHOWN = 8;
</script>

<template>
  <section v-if="mayTie || view.relations.length || view.things.length || view.elements.length" data-help="issues/ties">
    <h2>Tied to</h2>
    <ul>
      <li v-for="{ id, kind, back, issue } in view.relations" :key="id">
        <span class="quiet">{{ relationWords(kind, back) }}</span>
        <RouterLink :to="{ name: 'issue', params: { ...project.params, issueId: issue.id } }"
          >{{ issue.number }} {{ issue.title }}</RouterLink
        >
        <span :class="ISSUE_SIGNS[issue.status]">{{ issue.status }}</span>
        <button v-if="mayTie" class="button-link" :aria-label="`Take away ${issue.title}`" @click="unrelate(id)">
          <X :size="13" />
        </button>
      </li>
      <li v-for="thing in view.things" :key="thing.id">
        <span class="quiet">{{ thing.type }}</span> <RouterLink :to="thing.link">{{ thing.title }}</RouterLink>
        <button v-if="mayTie" class="button-link" :aria-label="`Take away ${thing.title}`" @click="untie(thing)">
          <X :size="13" />
        </button>
      </li>
      <li v-for="element in view.elements.slice(0, SHOWN)" :key="element.globalId">
        <span class="quiet">element</span> {{ element.name || element.globalId }}
      </li>
      <li v-if="view.elements.length > SHOWN" class="quiet">and {{ view.elements.length - SHOWN }} more elements</li>
    </ul>
    <div v-if="mayTie" class="row add">
      <el-select
        v-if="how"
        :model-value="undefined"
        filterable
        remote
        default-first-option
        :remote-method="find"
        :placeholder="how === 'about' ? 'Code, sheet, review …' : 'Number or title of the issue'"
        :aria-label="CHOICES.find((one) => one.how === how)!.word"
        style="width: 320px"
        @update:model-value="choose"
        ><el-option v-for="option in found" :key="option.id" :value="option.id" :label="option.title"
          >{{ option.title }} <span class="quiet">{{ option.note }}</span></el-option
        ></el-select
      >
      <el-dropdown v-else trigger="click" @command="how = $event">
        <button class="button-link">Tie it to something</button>
        <template #dropdown
          ><el-dropdown-menu
            ><el-dropdown-item v-for="choice in CHOICES" :key="choice.how" :command="choice.how">{{
              choice.word
            }}</el-dropdown-item></el-dropdown-menu
          ></template
        >
      </el-dropdown>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 14px;
}
ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
  padding: 2px 0;
}
</style>
