<script setup lang="ts">
/** The place of an issue as it was raised and as it is now: what arrived since, both side by side, and what changed there. */
import { listComparisons, listModelChanges, listSheetChanges, showComparison } from '@kindred/contract/compare/compare';
import type { IssueView } from '@kindred/contract/issues/issues';
import type { Place } from '@kindred/core/compare/numbered';
import { sayChange } from '@kindred/words/sheet-changes';
import { sayModelChange } from '@kindred/words/model-changes';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

const props = defineProps<{ view: IssueView }>();
const project = useProject();
const time = useTime();

/** Points around a place on a sheet within which a change counts as there. */
const NEAR = 140;
const isNear = ([x, y, w, h]: Place, at: { x: number; y: number }): boolean =>
  at.x > x - NEAR && at.x < x + w + NEAR && at.y > y - NEAR && at.y < y + h + NEAR;

interface Pair {
  containerId: string;
  word: string;
  before: { id: string; number: number };
  after: { id: string; number: number };
}
/** What was raised on an earlier version than the current one. */
const pairs = computed((): Pair[] => {
  const { sheet, models, issue } = props.view;
  const of = (
    containerId: string,
    word: string,
    id: string,
    number: number,
    now: { versionId: string; number: number },
  ) => ({
    ...{ containerId, word, before: { id, number }, after: { id: now.versionId, number: now.number } },
  });
  return [
    ...(sheet && issue.place
      ? [of(sheet.containerId, sheet.code, issue.place.versionId, sheet.versionNumber, sheet.current)]
      : []),
    ...models.map((model) => of(model.containerId, model.title, model.versionId, model.number, model.current)),
  ].filter(({ before, after }) => after.number > before.number);
});
const elements = computed(
  () =>
    new Set([...props.view.elements.map(({ globalId }) => globalId), ...(props.view.viewpoint?.state.selection ?? [])]),
);
/** It is about a place or some elements, not about all that is in its models. */
const isSomewhere = computed(() => Boolean(props.view.issue.place?.page) || elements.value.size > 0);
const AT_ONCE = 2000;

async function changesOn(pair: Pair): Promise<string[] | undefined> {
  const { items } = await call(listComparisons, {
    params: project.params,
    query: { beforeId: pair.before.id, afterId: pair.after.id },
  });
  if (!items[0]) return undefined;
  const params = { ...project.params, comparisonId: items[0].id };
  const { place } = props.view.issue;
  if (place) {
    const { sheets } = await call(showComparison, { params });
    const sheet = sheets.find(({ afterPage }) => afterPage === (place.page ?? 1));
    if (!sheet || sheet.outcome !== 'compared') return undefined;
    const { changes } = await call(listSheetChanges, { params: { ...params, position: String(sheet.position) } });
    return changes.filter((change) => isNear(change.place, place)).map((change) => sayChange(change));
  }
  // Where no element is named, all of the model is what it is about.
  const concerns = (...ids: (string | null)[]): boolean =>
    !elements.value.size || ids.some((id) => id !== null && elements.value.has(id));
  const there: string[] = [];
  for (let after: string | null | undefined; after !== null;) {
    const page = await call(listModelChanges, { params, query: { limit: AT_ONCE, ...(after && { after }) } });
    for (const change of page.items)
      if (concerns(change.globalId, change.formerId)) there.push(`${change.name}: ${sayModelChange(change)}`);
    after = page.next;
  }
  return there;
}
const { data: changed } = useQuery({
  key: () => [project.projectId, 'comparison', 'of issue', props.view.issue.id, pairs.value] as never,
  query: async () => Promise.all(pairs.value.map(changesOn)),
  enabled: () => pairs.value.length > 0 && project.may('register', 'see'),
});

const sideBySide = computed(() => {
  const { issue, viewpoint, sheet } = props.view;
  if (viewpoint)
    return {
      name: 'scene-beside',
      params: project.params,
      query: {
        viewpoint: viewpoint.id,
        left: props.view.models.map(({ versionId }) => versionId).join(),
        right: props.view.models.map(({ current }) => current.versionId).join(),
      },
    };
  const page = issue.place?.page;
  if (!sheet || !page) return undefined;
  return {
    name: 'sheet-changes',
    params: { ...project.params, containerId: sheet.containerId },
    query: {
      ...{ before: String(sheet.versionNumber), after: String(sheet.current.number), page: String(page), as: 'side' },
    },
  };
});
const changesLink = ({ containerId, before, after }: Pair) => ({
  name: props.view.viewpoint ? 'model-changes' : 'sheet-changes',
  params: { ...project.params, containerId },
  query: {
    before: String(before.number),
    after: String(after.number),
    ...(props.view.issue.place?.page && { page: String(props.view.issue.place.page) }),
  },
});
const SHOWN = 5;
</script>

<template>
  <section v-if="pairs.length || view.answers.length" class="changes" aria-label="As raised and now">
    <p v-if="pairs.length" role="status" class="words">
      <b>A newer version has arrived since:</b>
      <span v-for="pair in pairs" :key="pair.containerId">
        {{ pair.word }}, version {{ pair.after.number }} <span class="quiet">(raised on {{ pair.before.number }})</span>
      </span>
    </p>
    <ul v-if="view.answers.length">
      <li v-for="answer in view.answers" :key="answer.versionId">
        <RouterLink :to="{ name: 'container', params: { ...project.params, containerId: answer.containerId } }"
          >Version {{ answer.versionNumber }} of {{ answer.code }}</RouterLink
        >
        answers it, says {{ answer.by.name }} <span class="quiet">{{ time.moment(answer.at) }}</span><template
          v-if="answer.note"
          >: {{ answer.note }}</template
        >
      </li>
    </ul>
    <p v-if="pairs.length && sideBySide" class="links">
      <RouterLink class="button" :to="sideBySide">As raised and now, side by side</RouterLink>
    </p>
    <template v-for="(pair, i) in pairs" :key="pair.containerId">
      <div v-if="changed?.[i]" class="there">
        <p class="words">
          <b>{{ changed[i]!.length ? 'What changed' : 'Nothing changed' }}{{ isSomewhere ? ' there' : '' }}</b>
          <span class="quiet"
            >in {{ pair.word }}, between versions {{ pair.before.number }} and {{ pair.after.number }}</span
          >
          <RouterLink :to="changesLink(pair)">All changes</RouterLink>
        </p>
        <ul>
          <li v-for="(word, at) in changed[i]!.slice(0, SHOWN)" :key="at">{{ word }}</li>
          <li v-if="changed[i]!.length > SHOWN" class="quiet">and {{ changed[i]!.length - SHOWN }} more</li>
        </ul>
      </div>
      <p v-else-if="changed" class="quiet">
        The versions {{ pair.before.number }} and {{ pair.after.number }} of {{ pair.word }} are not compared yet.
        <RouterLink :to="changesLink(pair)">Compare them</RouterLink>
      </p>
    </template>
  </section>
</template>

<style scoped>
.changes {
  margin: 0 0 14px;
  padding: 10px 12px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
p {
  margin: 2px 0 6px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
}
ul {
  margin: 2px 0 6px;
  padding-left: 18px;
}
.button {
  display: inline-block;
  padding: 5px 10px;
  border-radius: 3px;
  background: var(--action);
  color: #fff;
  text-decoration: none;
}
</style>
