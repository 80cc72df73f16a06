<script setup lang="ts">
import { listDeliveries, type Delivery } from '@kindred/contract/register/exchange';
import { DAY, type TimeSpan } from '@kindred/core/register/timeline';
import { useQuery } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import { useRelated } from '../things/related.ts';
import { usePeople } from '../people/store.ts';
import { useRouteQuery } from '../platform/route-query.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import { SOURCE_WORDS } from '../register/signs.ts';
import DeliveryChartsPanel from './DeliveryChartsPanel.vue';
import DeliveryTimeline from './DeliveryTimeline.vue';
import ExchangeMatrixPanel from './ExchangeMatrixPanel.vue';

/** Who delivered what and when, who uses what of whom and how far behind they are. */
const project = useProject();
const people = usePeople();
const related = useRelated();
const time = useTime();
const route = useRoute();
const router = useRouter();
related.select(null);

const { query } = useRouteQuery();
const tomorrow = Math.ceil(Date.now() / DAY) * DAY;
const span = ref<TimeSpan>({
  from: Number(query('from')) || tomorrow - 75 * DAY,
  to: Number(query('to')) || tomorrow + DAY,
});
watch(span, ({ from, to }) =>
  router.replace({ query: { ...route.query, from: String(Math.round(from)), to: String(Math.round(to)) } }),
);
/** Whole months are asked for: moving within them asks nothing. */
const asked = computed(() => {
  const begin = new Date(span.value.from);
  const end = new Date(span.value.to);
  return {
    from: new Date(Date.UTC(begin.getUTCFullYear(), begin.getUTCMonth(), 1)).toISOString(),
    to: new Date(Date.UTC(end.getUTCFullYear(), end.getUTCMonth() + 1, 1)).toISOString(),
  };
});
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'deliveries', asked.value.from, asked.value.to],
  query: () => call(listDeliveries, { params: project.params, query: asked.value }),
});
const show = computed(() => query('show') || 'all');
const deliveries = computed(() =>
  (data.value ?? []).filter((delivery) => {
    if (show.value === 'private') return delivery.private > 0;
    return show.value !== 'shared' || delivery.private < delivery.files;
  }),
);
const teams = computed(() => people.data?.teams ?? []);
const chosen = ref<Delivery[]>([]);
function choose(list: Delivery[]): void {
  chosen.value = list;
  const id = list[0]?.first[0]?.containerId;
  if (id) related.select({ type: 'container', id });
}
const SPANS = [
  { word: 'Two weeks', days: 14 },
  { word: 'Ten weeks', days: 70 },
  { word: 'A year', days: 366 },
];
const lookBack = (days: number): void => void (span.value = { from: tomorrow - days * DAY, to: tomorrow + DAY });
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Exchange board</h1>
      <span class="spread" />
      <el-select
        :model-value="show"
        style="width: 150px"
        aria-label="Which deliveries"
        @update:model-value="router.replace({ query: { ...route.query, show: $event === 'all' ? undefined : $event } })"
      >
        <el-option value="all" label="All deliveries" />
        <el-option value="shared" label="Shared" />
        <el-option value="private" label="Still private" />
      </el-select>
      <el-button v-for="{ word, days } in SPANS" :key="days" @click="lookBack(days)">{{ word }}</el-button>
    </div>
    <DeliveryTimeline v-model="span" :deliveries="deliveries" :teams="teams" @choose="choose" />
    <p class="quiet key">
      <svg width="12" height="12"><rect x="1" y="1" width="10" height="10" class="shared" /></svg> shared
      <svg width="12" height="12"><rect x="1" y="1" width="10" height="10" class="private" /></svg> still private to the
      team · turn the wheel to zoom, drag to move
    </p>
    <section v-if="chosen.length" class="chosen">
      <div v-for="delivery in chosen" :key="delivery.id">
        <b>{{ time.moment(delivery.at) }}</b> {{ delivery.by }}, {{ SOURCE_WORDS[delivery.source] }}:
        {{ delivery.files }} {{ delivery.files === 1 ? 'file' : 'files'
        }}<template v-if="delivery.private">, {{ delivery.private }} still private</template>
        <ul>
          <li v-for="file in delivery.first" :key="`${file.containerId}${file.version}`">
            <RouterLink
              :to="{ name: 'container', params: { ...project.params, containerId: file.containerId } }"
              class="mono"
              >{{ file.code }}</RouterLink
            >
            {{ file.title }} <span class="quiet">version {{ file.version }}</span>
          </li>
        </ul>
      </div>
    </section>
    <EmptyPlace v-if="data && !data.length" title="Nothing was delivered in this time"
      >Look further back, or deliver the first files in the register.</EmptyPlace
    >
    <div class="below">
      <ExchangeMatrixPanel :teams="teams" />
      <DeliveryChartsPanel :teams="teams" />
    </div>
  </div>
</template>

<style scoped>
.key {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 12px;
  margin: 6px 0 12px;
}
.key .shared {
  fill: var(--info);
}
.key .private {
  fill: var(--sheet);
  stroke: var(--graphite);
  stroke-dasharray: 2 2;
}
.chosen {
  border: 1px solid var(--hairline);
  background: var(--sheet);
  padding: 10px 14px;
  margin-bottom: 14px;
  max-height: 200px;
  overflow: auto;
}
ul {
  margin: 2px 0 8px;
  padding-left: 18px;
}
.below {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(380px, 100%), 1fr));
  gap: 26px;
  align-items: start;
}
</style>
