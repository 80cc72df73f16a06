<script setup lang="ts">
import { addConvention, type Convention } from '@kindred/contract/naming/naming';
import { Plus } from '@lucide/vue';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useFolders } from '../register/folders-store.ts';
import CodesPanel from './CodesPanel.vue';
import ConventionPanel from './ConventionPanel.vue';
import { useNaming } from './store.ts';

const project = useProject();
const store = useNaming();
const folders = useFolders();
const route = useRoute();
const router = useRouter();
const naming = computed(() => store.naming);
const PARTS = { statuses: 'Status codes', revisions: 'Revisions', classifications: 'Classification' } as const;
const part = computed(() =>
  Object.hasOwn(PARTS, String(route.query.codes)) ? (String(route.query.codes) as keyof typeof PARTS) : null,
);
const convention = computed(
  (): Convention | undefined => store.byId.get(String(route.query.convention)) ?? naming.value?.conventions[0],
);
/** Folders that name the convention. */
const usedBy = computed(() => folders.list.filter(({ conventionId }) => conventionId === convention.value?.id));
const show = (query: Record<string, string>) => router.replace({ query });

async function add(): Promise<void> {
  await attempt(async () => {
    const names = new Set(naming.value!.conventions.map(({ definition }) => definition.name));
    let n = naming.value!.conventions.length + 1;
    while (names.has(`Convention ${n}`)) n++;
    const added = await call(addConvention, {
      params: project.params,
      body: {
        definition: {
          name: `Convention ${n}`,
          separator: '-',
          fields: [
            { name: 'Kind', kind: 'list', values: [{ code: 'A', meaning: 'The first kind' }] },
            { name: 'Number', kind: 'number', length: 3 },
          ],
        },
      },
    });
    await store.refetch();
    await show({ convention: added.id });
  });
}
</script>

<template>
  <div v-if="naming" class="split">
    <nav v-arrow-keys="'button'" class="left" aria-label="Conventions and codes">
      <h2>Conventions</h2>
      <button
        v-for="one in naming.conventions"
        :key="one.id"
        :class="{ here: !part && one.id === convention?.id }"
        @click="show({ convention: one.id })"
      >
        <span>{{ one.definition.name }}</span>
        <small class="quiet">{{ one.isDefault ? 'the project’s own' : `edition ${one.edition}` }}</small>
      </button>
      <button v-if="project.may('naming', 'manage')" class="add" @click="add">
        <Plus :size="14" /> New convention
      </button>
      <h2 style="margin-top: 18px">Beside the name</h2>
      <button v-for="(words, key) in PARTS" :key="key" :class="{ here: part === key }" @click="show({ codes: key })">
        <span>{{ words }}</span>
      </button>
    </nav>
    <div class="page">
      <div class="page-head">
        <h1>{{ part ? PARTS[part] : convention?.definition.name }}</h1>
        <span v-if="!part && convention" class="quiet">edition {{ convention.edition }}</span>
      </div>
      <CodesPanel v-if="part" :naming="naming" :part="part" />
      <ConventionPanel
        v-else-if="convention"
        :key="convention.id"
        :convention="convention"
        :used-by="usedBy"
        @removed="show({})"
      />
    </div>
  </div>
</template>

<style scoped>
.split {
  height: 100%;
  display: grid;
  grid-template-columns: 200px minmax(0, 1fr);
}
.left {
  border-right: 1px solid var(--hairline);
  padding: 18px 0 0 16px;
  overflow: auto;
}
.left button {
  display: grid;
  width: 100%;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  text-align: left;
  padding: 6px 10px 6px 8px;
  margin-left: -8px;
  cursor: pointer;
}
.left button:hover {
  background: var(--wash);
}
.left button.here {
  background: var(--action-wash);
  font-weight: 600;
}
.left button small {
  font-weight: 400;
}
.left .add {
  display: flex;
  align-items: center;
  gap: 5px;
  color: var(--action);
}
@media (max-width: 700px) {
  .split {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr);
  }
  .left {
    display: flex;
    flex-wrap: wrap;
    max-height: 30vh;
    overflow: auto;
  }
}
</style>
