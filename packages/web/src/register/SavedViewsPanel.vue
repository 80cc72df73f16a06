<script setup lang="ts">
import {
  addSavedView,
  changeSavedView,
  listSavedViews,
  removeSavedView,
  ringSavedView,
  type SavedView,
  type SavedViewDefinition,
  type ViewedList,
} from '@kindred/contract/register/views';
import { Bell, BellRing, BookMarked } from '@lucide/vue';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

/** Saved views of a list: one's own, and those offered to all. */
const props = defineProps<{
  list: ViewedList;
  /** The view that is shown, and how the list is looked at now. */
  viewId: string;
  definition: SavedViewDefinition;
  /** What comes into a view can be heard of. */
  bells?: boolean;
}>();
const emit = defineEmits<{ show: [id: string, definition: SavedViewDefinition] }>();
const project = useProject();
const { data, refetch } = useQuery({
  key: () => [project.projectId, 'saved view', props.list],
  query: () => call(listSavedViews, { params: project.params, query: { list: props.list } }),
});
const open = ref(false);
const naming = ref(false);
const name = ref('');
const forAll = ref(false);
const current = computed(() => data.value?.find(({ id }) => id === props.viewId));
const differs = computed(() => {
  const saved = current.value?.definition;
  return saved && JSON.stringify(sorted(saved)) !== JSON.stringify(sorted(props.definition));
});
const sorted = ({ filters, ...rest }: SavedViewDefinition) => ({
  ...rest,
  filters: Object.fromEntries(Object.entries(filters).sort()),
});

const at = ({ id }: SavedView) => ({ ...project.params, viewId: id });
function show(saved: SavedView): void {
  emit('show', saved.id, saved.definition);
  open.value = false;
}
async function save(): Promise<void> {
  const wanted = { list: props.list, name: name.value.trim(), forAll: forAll.value, definition: props.definition };
  const done = await attempt(async () => {
    const saved = await call(addSavedView, { params: project.params, body: wanted });
    await refetch();
    show(saved);
    sayDone(`The view “${saved.name}” is kept.`);
  });
  if (!done) return;
  naming.value = false;
  name.value = '';
}
async function saveAgain(saved: SavedView, offer = saved.forAll): Promise<void> {
  const definition = saved === current.value ? props.definition : saved.definition;
  const body = { name: saved.name, forAll: offer, definition, edition: saved.edition };
  await attempt(() => call(changeSavedView, { params: at(saved), body }));
  await refetch();
}
async function remove(saved: SavedView): Promise<void> {
  await attempt(() => call(removeSavedView, { params: at(saved) }));
  await refetch();
}
async function ring(saved: SavedView): Promise<void> {
  await attempt(() => call(ringSavedView, { params: at(saved), body: { on: !saved.bell } }));
  await refetch();
}
</script>

<template>
  <el-popover v-model:visible="open" trigger="click" placement="bottom-end" :width="bells ? 380 : 320">
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
      <button
        v-if="bells"
        class="button-link"
        :aria-pressed="saved.bell"
        :aria-label="`Tell me what comes into ${saved.name}`"
        :title="saved.bell ? 'You hear of what comes into it' : 'Tell me what comes into it'"
        @click="ring(saved)"
      >
        <component :is="saved.bell ? BellRing : Bell" :size="14" />
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
