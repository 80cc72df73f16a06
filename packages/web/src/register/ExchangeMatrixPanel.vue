<script setup lang="ts">
import { counted } from '@kindred/words/sentence';
import { listUsed, showExchangeMatrix } from '@kindred/contract/register/exchange';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { RouterLink } from 'vue-router';
import { call } from '../platform/api.ts';
import { useTime } from '../platform/time.ts';
import { useProject } from '../portfolio/store.ts';

/** For each pair of teams: what one uses of the other, and how many versions behind it is. */
const props = defineProps<{ teams: { id: string; name: string; colour: string }[] }>();
const project = useProject();
const time = useTime();
const { data } = useQuery({
  key: () => [project.projectId, 'container', 'matrix'],
  query: () => call(showExchangeMatrix, { params: project.params }),
});
const cells = computed(() => new Map((data.value ?? []).map((cell) => [`${cell.provider} ${cell.user}`, cell])));
const taking = computed(() =>
  props.teams.filter(({ id }) => (data.value ?? []).some(({ provider, user }) => provider === id || user === id)),
);
const chosen = ref<{ provider: string; user: string } | null>(null);
const { data: used } = useQuery({
  key: () => [project.projectId, 'container', 'used', chosen.value?.provider ?? '', chosen.value?.user ?? ''],
  query: () => call(listUsed, { params: { ...project.params, ...chosen.value! } }),
  enabled: () => chosen.value !== null,
});
const behind = (user: string, by: number, provider: string): string =>
  by ? `${user} is ${counted(by, 'version')} behind ${provider}` : `${user} is level with ${provider}`;
const nameOf = (id: string): string => props.teams.find((team) => team.id === id)?.name ?? '';
const HOW = { opened: 'opened', downloaded: 'downloaded', received: 'received', reviewed: 'in review' } as const;
</script>

<template>
  <section>
    <h2>Exchange matrix</h2>
    <p class="quiet">
      How many versions behind is the user of the information? Counted from what each team last opened, downloaded,
      received or reviewed.
    </p>
    <table v-if="taking.length" class="matrix">
      <thead>
        <tr>
          <th class="quiet">uses ↓ of →</th>
          <th v-for="team in taking" :key="team.id" scope="col">{{ team.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="user in taking" :key="user.id">
          <th scope="row">{{ user.name }}</th>
          <td v-for="provider in taking" :key="provider.id">
            <span v-if="user.id === provider.id" class="self" />
            <template v-for="cell in [cells.get(`${provider.id} ${user.id}`)]" :key="cell?.most">
              <button
                v-if="cell"
                class="cell"
                :class="cell.most ? (cell.most > 1 ? 'far' : 'near') : 'level'"
                :title="behind(user.name, cell.most, provider.name)"
                @click="chosen = { provider: provider.id, user: user.id }"
              >
                <span class="said-only">{{ behind(user.name, cell.most, provider.name) }}</span>
                <b class="mono" aria-hidden="true">{{ cell.most ? `−${cell.most}` : '=' }}</b>
                <small aria-hidden="true">{{
                  cell.behind ? `${cell.behind} of ${cell.containers}` : `${cell.containers}`
                }}</small>
              </button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="data" class="quiet">No team has taken anything of another yet.</p>
    <div v-if="chosen && used" class="used">
      <h2>{{ nameOf(chosen.user) }} uses of {{ nameOf(chosen.provider) }}</h2>
      <div v-for="one in used" :key="one.containerId" class="row">
        <span class="mono" :class="one.behind ? 'late' : 'quiet'">{{ one.behind ? `−${one.behind}` : '=' }}</span>
        <RouterLink :to="{ name: 'container', params: { ...project.params, containerId: one.containerId } }">{{
          one.title || one.code
        }}</RouterLink>
        <span class="quiet"
          >version {{ one.taken }} of {{ one.newest }}, {{ HOW[one.how] }} {{ time.short(one.at) }} by
          {{ one.by }}</span
        >
      </div>
    </div>
  </section>
</template>

<style scoped>
.matrix {
  border-collapse: collapse;
  font-size: 12px;
}
th {
  font-weight: 500;
  text-align: left;
  padding: 4px 8px 4px 0;
}
td {
  width: 92px;
  height: 40px;
  padding: 2px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
}
.self {
  display: block;
  height: 34px;
  background: var(--wash);
}
.cell {
  width: 100%;
  height: 34px;
  border: 0;
  border-radius: 3px;
  background: none;
  font: inherit;
  cursor: pointer;
  display: flex;
  gap: 6px;
  align-items: center;
  justify-content: center;
  color: var(--ink);
}
.cell small {
  color: var(--graphite);
}
.level {
  background: var(--action-wash);
}
.near {
  background: #f6ecd6;
}
.far {
  background: var(--needs-you-wash);
}
.late {
  color: var(--needs-you);
  font-weight: 600;
}
.used {
  margin-top: 12px;
  font-size: 12px;
}
</style>
