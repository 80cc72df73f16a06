<script setup lang="ts">
/** Coordinates of the models of a federation: what each says of the map, where it lies, and what is wrong with it. */
import { listModelPlaces, type FederatedModel, type ModelPlace } from '@kindred/contract/federation/federations';
import { placeModel } from '@kindred/contract/scene/placings';
import { sayPlacing, sayPosition } from '@kindred/words/positions';
import { counted } from '@kindred/words/sentence';
import { useQuery, useQueryCache } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';
import PlacesDrawing from './PlacesDrawing.vue';
import PlacingDialog from './PlacingDialog.vue';

const props = defineProps<{ federationId: string; models: readonly FederatedModel[]; mayChange: boolean }>();
const project = useProject();
const cache = useQueryCache();
const time = useTime();
const placing = ref<{ name: string; place: ModelPlace }>();
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'places', props.federationId],
  query: () => call(listModelPlaces, { params: { ...project.params, federationId: props.federationId } }),
});
const rows = computed(() =>
  props.models.flatMap((model) => {
    const place = data.value?.find(({ containerId }) => containerId === model.containerId);
    return place ? [{ name: model.title || model.code, place }] : [];
  }),
);
const wrong = computed(
  () => rows.value.filter(({ place }) => place.findings.some(({ code }) => code !== 'no-survey')).length,
);
const verdict = computed(() => {
  if (wrong.value) return `${wrong.value} of ${counted(rows.value.length, 'model')} do not lie as the others do`;
  const silent = rows.value.filter(({ place }) => place.findings.length).length;
  return `all models lie together${silent ? `; ${silent} of them ${silent === 1 ? 'says' : 'say'} nothing of the map` : ''}`;
});
async function takeBack({ containerId }: ModelPlace): Promise<void> {
  const params = { ...project.params, containerId };
  await attempt(() => call(placeModel, { params, body: { placing: null } }));
  await cache.invalidateQueries({ key: [project.projectId, 'container', 'places'] });
}
const number = (value: number): string => (Math.round(value * 1000) / 1000).toLocaleString('en');
const sizeOf = ({ position }: ModelPlace): string =>
  position?.bounds
    ? [0, 1, 2]
        .map((axis) => number(Math.round((position.bounds![axis + 3]! - position.bounds![axis]!) * 10) / 10))
        .join(' × ')
    : '';
</script>

<template>
  <details v-if="rows.length" :open="wrong > 0">
    <summary>
      <h2>Coordinates</h2>
      <span :class="wrong ? 'sign caution' : 'quiet'">{{ verdict }}</span>
    </summary>
    <div class="two">
      <table class="plain-table">
        <thead>
          <tr>
            <th>Model</th>
            <th>Map conversion: E, N, H, rotation</th>
            <th>Size, m</th>
            <th>What is wrong</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ name, place } in rows" :key="place.containerId">
            <td>
              {{ name }}<br /><small class="quiet">{{
                place.position?.lengthUnit ?? 'not known: deliver it again'
              }}</small>
            </td>
            <td class="mono">
              <template v-if="place.position?.survey"
                >{{ number(place.position.survey.eastings) }}<br />{{ number(place.position.survey.northings) }}<br />{{
                  number(place.position.survey.height)
                }}
                · {{ number(place.position.survey.rotation) }}°</template
              >
              <span v-else-if="place.position" class="quiet">none</span>
            </td>
            <td class="mono size">{{ sizeOf(place) }}</td>
            <td>
              <p v-if="!place.findings.length" class="quiet">nothing</p>
              <p v-for="finding in place.findings" :key="finding.code">{{ sayPosition(finding) }}</p>
              <p v-if="place.placing" class="quiet">It would lie with them {{ sayPlacing(place.placing) }}.</p>
              <p v-if="place.set">
                Put here {{ sayPlacing(place.set.placing) }}.
                <span class="quiet"
                  >{{ place.set.by.name }}, {{ time.date(place.set.at)
                  }}{{ place.set.number === null ? '' : `, for version ${place.set.number}` }}</span
                >
              </p>
              <p v-if="mayChange && place.position?.bounds" class="row">
                <button class="button-link" @click="placing = { name, place }">
                  {{ place.placing ? 'Place it so …' : place.set ? 'Change …' : 'Place …' }}
                </button>
                <button v-if="place.set" class="button-link" @click="takeBack(place)">As it was delivered</button>
              </p>
            </td>
          </tr>
        </tbody>
      </table>
      <PlacesDrawing :places="rows" />
    </div>
    <PlacingDialog v-if="placing" v-bind="placing" :all="rows" @close="placing = undefined" />
  </details>
</template>

<style scoped>
summary {
  display: flex;
  align-items: baseline;
  gap: 14px;
  margin: 18px 0 8px;
  cursor: pointer;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 14px;
  align-items: start;
}
.size {
  white-space: nowrap;
}
p {
  margin: 0 0 2px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
