<script setup lang="ts">
import {
  addRegisterView,
  changeRegisterView,
  listRegisterViews,
  removeRegisterView,
  type RegisterView,
} from '@kindred/contract/register/views';
import { BookMarked } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import type { RegisterViewState } from './register-view.ts';

/** Saved views of the register: one's own, and those offered to all. */
const props = defineProps<{ view: RegisterViewState }>();
const project = useProject();
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'register view'],
  query: () => call(listRegisterViews, { params: project.params }),
});
const open = ref(false);
const naming = ref(false);
const name = ref('');
const forAll = ref(false);
const current = computed(() => data.value?.find(({ id }) => id === props.view.query('view')));
const differs = computed(() => {
  const saved = current.value?.definition;
  return saved && JSON.stringify(sorted(saved)) !== JSON.stringify(sorted(props.view.definition.value));
});
const sorted = ({ filters, ...rest }: RegisterView['definition']) => ({
  ...rest,
  filters: Object.fromEntries(Object.entries(filters).sort()),
});

function show(saved: RegisterView): void {
  props.view.show(saved.id, saved.definition);
  open.value = false;
}
async function save(): Promise<void> {
  const definition = props.view.definition.value;
  const wanted = { name: name.value.trim(), forAll: forAll.value, definition };
  const done = await attempt(async () => {
    const saved = await call(addRegisterView, { params: project.params, body: wanted });
    await refetch();
    show(saved);
    sayDone(`The view “${saved.name}” is kept.`);
  });
  if (!done) return;
  naming.value = false;
  name.value = '';
}
async function saveAgain({ id, name: kept, forAll: offered, edition }: RegisterView, offer = offered): Promise<void> {
  const definition =
    current.value?.id === id ? props.view.definition.value : data.value!.find((one) => one.id === id)!.definition;
  const body = { name: kept, forAll: offer, definition, edition };
  await attempt(() => call(changeRegisterView, { params: { ...project.params, viewId: id }, body }));
  await refetch();
}
async function remove({ id }: RegisterView): Promise<void> {
  await attempt(() => call(removeRegisterView, { params: { ...project.params, viewId: id } }));
  await refetch();
}
</script>

<template>
  <el-popover v-model:visible="open" trigger="click" placement="bottom-end" :width="320">
    <template #reference>
      <el-button
        ><BookMarked :size="14" style="margin-right: 5px" /> {{ current?.name ?? 'Views'
        }}<template v-if="differs"> *</template></el-button
      >
    </template>
    <p v-if="!data?.length" class="quiet">
      Filters, columns, order and groups as they stand now can be kept under a name, for yourself or for all.
    </p>
    <div v-for="saved in data" :key="saved.id" class="saved">
      <button class="button-link spread" @click="show(saved)">
        {{ saved.name }}
      </button>
      <small class="quiet">{{ saved.mine ? (saved.forAll ? 'for all' : 'mine') : saved.owner }}</small>
      <template v-if="saved.mine">
        <button v-if="saved === current && differs" class="button-link" @click="saveAgain(saved)">Keep changes</button>
        <button class="button-link" @click="saveAgain(saved, !saved.forAll)">
          {{ saved.forAll ? 'Mine alone' : 'Offer to all' }}
        </button>
        <button class="button-link" :aria-label="`Remove the view ${saved.name}`" @click="remove(saved)">Remove</button>
      </template>
    </div>
    <form v-if="naming" class="new" @submit.prevent="save">
      <el-input
        v-model="name"
        size="small"
        placeholder="Name of the view"
        aria-label="Name of the view"
        maxlength="80"
      />
      <el-checkbox v-model="forAll" size="small">For all</el-checkbox>
      <el-button size="small" type="primary" native-type="submit" :disabled="!name.trim()">Keep</el-button>
    </form>
    <button v-else class="button-link" @click="naming = true">Keep what is shown now as a view …</button>
  </el-popover>
</template>

<style scoped>
.saved {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 3px 0;
}
.saved .spread {
  text-align: left;
}
.new {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
