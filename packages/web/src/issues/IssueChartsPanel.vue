<script setup lang="ts">
/** Charts of the issues that fit; each number leads to its list. */
import { showIssueFigures, type IssueFigures } from '@kindred/contract/issues/figures';
import type { IssueFilters } from '@kindred/contract/issues/issues';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import ChartFigure from '../platform/ChartFigure.vue';
import { day } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import type { IssueViewState } from './issue-view.ts';

const props = defineProps<{ view: IssueViewState }>();
const project = useProject();
const { data } = useQuery({
  key: () => [project.projectId, 'issue', 'figures', props.view.filters.value] as never,
  query: () => call(showIssueFigures, { params: project.params, query: props.view.filters.value }),
});
const list = (filters: IssueFilters): void =>
  void props.view.set({
    ...(filters as Record<string, string>),
    ...(filters.overdue && { overdue: 'true' }),
    as: undefined,
  });
const PENDING = 'open,in hand,answered';
const teamName = ({ name }: IssueFigures['teams'][number]): string => name || 'nobody yet';
const teamFilter = ({ teamId }: IssueFigures['teams'][number]): string => teamId ?? 'nobody';
const ageWord = ({ days }: { days: number | null }, i: number): string => {
  const before = data.value?.ages[i - 1]?.days;
  if (days === null) return `more than ${before} days`;
  return i ? `${before! + 1} to ${days} days` : `up to ${days} days`;
};
const weeks = computed(() => data.value?.weeks ?? []);
const teams = computed(() => data.value?.teams ?? []);
const ages = computed(() => data.value?.ages ?? []);
const anything = computed(() => teams.value.length > 0 || weeks.value.some(({ raised, open }) => raised + open > 0));
</script>

<template>
  <p v-if="data && !anything" class="quiet">No issue fits: there is nothing to draw.</p>
  <div v-else-if="data" class="charts" data-help="issues/charts">
    <section>
      <h2>Who has to answer</h2>
      <ChartFigure
        kind="bar"
        stacked
        unit="issues"
        :labels="teams.map(teamName)"
        :series="[
          { label: 'open', colour: '#b4502d', values: teams.map(({ open }) => open) },
          { label: 'in hand', colour: '#8f5e0b', values: teams.map(({ inHand }) => inHand) },
          { label: 'answered', colour: '#3f6188', values: teams.map(({ answered }) => answered) },
        ]"
      />
      <table class="plain-table">
        <tbody>
          <tr v-for="team in teams" :key="team.teamId ?? ''">
            <td>{{ teamName(team) }}</td>
            <td class="right">
              <button class="button-link" @click="list({ team: teamFilter(team), status: PENDING })">
                {{ team.open + team.inHand + team.answered }} not closed
              </button>
            </td>
            <td class="right">
              <button
                v-if="team.overdue"
                class="button-link late"
                @click="list({ team: teamFilter(team), overdue: true })"
              >
                {{ team.overdue }} overdue
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2>How old what is not closed is</h2>
      <ChartFigure
        kind="bar"
        unit="issues"
        :labels="ages.map(ageWord)"
        :series="[{ label: 'not closed', colour: '#14706a', values: ages.map(({ count }) => count) }]"
      />
      <p class="links">
        <template v-for="(age, i) in ages" :key="i"
          ><button
            v-if="age.count"
            class="button-link"
            @click="
              list({
                status: PENDING,
                raisedTo: age.raisedTo,
                ...(age.raisedFrom && { raisedFrom: age.raisedFrom }),
              })
            "
          >
            {{ age.count }}, {{ ageWord(age, i) }}
          </button></template
        >
      </p>
    </section>
    <section>
      <h2>Week by week</h2>
      <ChartFigure
        kind="line"
        unit="issues"
        :labels="weeks.map(({ from }) => day(from))"
        :series="[
          { label: 'not closed at its end', colour: '#1d2a2f', values: weeks.map(({ open }) => open) },
          { label: 'raised', colour: '#b4502d', values: weeks.map(({ raised }) => raised) },
          { label: 'closed', colour: '#14706a', values: weeks.map(({ closed }) => closed) },
        ]"
      />
      <p v-if="weeks.length" class="links">
        <button class="button-link" @click="list({ raisedFrom: weeks.at(-1)!.from, raisedTo: weeks.at(-1)!.to })">
          {{ weeks.at(-1)!.raised }} raised this week
        </button>
      </p>
    </section>
    <section>
      <h2>Time to the first answer</h2>
      <ChartFigure
        v-if="data.answers.length"
        kind="bar"
        unit="days"
        :labels="data.answers.map(({ company }) => company || 'no company')"
        :series="[
          { label: 'half of them within', colour: '#6b3f69', values: data.answers.map(({ medianDays }) => medianDays) },
        ]"
      />
      <p class="quiet">
        {{
          data.answers.length
            ? `Half of the issues that a company answered were answered within so many days.`
            : 'Nothing was answered yet.'
        }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.charts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(420px, 100%), 1fr));
  gap: 18px 36px;
}
.late {
  color: var(--needs-you);
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
</style>
