<script setup lang="ts">
/** The stamps of the project: words that fill themselves, or pictures, and who places them. */
import {
  addStamp,
  changeStamp,
  listStamps,
  removeStamp,
  showStampPicture,
  type Stamp,
} from '@kindred/contract/markup/stamps';
import { fillStamp, STAMP_FIELDS, type StampField } from '@kindred/core/markup/stamp-text';
import { useQuery } from '@pinia/colada';
import { computed, ref } from 'vue';
import { useSession } from '../identity/store.ts';
import { usePeople } from '../people/store.ts';
import { addressOf, call } from '../platform/api.ts';
import EmptyPlace from '../platform/EmptyPlace.vue';
import FormDialog from '../platform/FormDialog.vue';
import { attempt } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { sendFile } from '../register/send-file.ts';
import StampFigure from './StampFigure.vue';

const project = useProject();
const people = usePeople();
const session = useSession();
const { data: stamps, refetch } = useQuery({
  key: () => [project.projectId, 'stamp'],
  query: () => call(listStamps, { params: project.params }),
});
/** Points. */
const MM = 72 / 25.4;
const clamp = (points: number): number => Math.min(1000, Math.max(20, points || 20));
const mayChange = computed(() => project.may('markup', 'change'));
const roles = computed(() => people.data?.roles ?? []);
const rolesOf = ({ roleIds }: Stamp): string =>
  roleIds.map((id) => roles.value.find((role) => role.id === id)?.name ?? 'a removed role').join(', ') ||
  'everybody who may mark';
const pictureOf = ({ id }: Pick<Stamp, 'id'>): string =>
  addressOf(showStampPicture, { ...project.params, stampId: id });

const FIELD_WORDS: Record<StampField, string> = {
  date: 'the day',
  name: 'who places it',
  code: 'code of the drawing',
  revision: 'its revision',
  decision: 'asked when it is placed',
};
const EXAMPLE = computed((): Record<StampField, string> => ({
  ...{
    date: '3 Mar 2027',
    name: session.me?.name ?? '',
    code: 'ORP-TVA-00-D-0101',
    revision: 'P02',
    decision: 'Accepted',
  },
}));
const shown = (text: string): string => fillStamp(text, EXAMPLE.value);

type Draft = Pick<Stamp, 'name' | 'text' | 'colour' | 'width' | 'height' | 'roleIds'> & {
  id?: string;
  edition?: number;
  picture?: boolean;
};
const draft = ref<Draft | null>(null);
const file = ref<File>();
const begin = (): void => {
  file.value = undefined;
  draft.value = { name: '', text: 'CHECKED\n{name}, {date}', colour: '#14706A', width: 170, height: 60, roleIds: [] };
};
function change(stamp: Stamp): void {
  file.value = undefined;
  draft.value = { ...stamp };
}
/** A picture says it all. */
async function choosePicture(chosen: File | undefined): Promise<void> {
  if (!chosen || !draft.value) return;
  file.value = chosen;
  draft.value.text = '';
  draft.value.name ||= chosen.name.replace(/\.\w+$/, '').slice(0, 80);
}
const insert = (field: StampField): void => void (draft.value!.text += `{${field}}`);
async function save(): Promise<void> {
  const { id, edition, picture, ...wanted } = draft.value!;
  void picture;
  const { name, text, colour, width, height, roleIds } = wanted;
  const body = { name, text, colour, width, height, roleIds };
  if (id) await call(changeStamp, { params: { ...project.params, stampId: id }, body: { edition: edition!, ...body } });
  else {
    const uploadId = file.value && (await sendFile(project.projectId, file.value, 'markup'));
    await call(addStamp, { params: project.params, body: { ...body, ...(uploadId && { uploadId }) } });
  }
  await refetch();
}
async function remove({ id }: Stamp): Promise<void> {
  await attempt(() => call(removeStamp, { params: { ...project.params, stampId: id } }));
  await refetch();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Stamps</h1>
      <span class="quiet">Ready to be placed on sheets. What was placed stays as it is.</span>
      <span class="spread" />
      <el-button v-if="mayChange" type="primary" @click="begin">New stamp</el-button>
    </div>
    <EmptyPlace v-if="stamps && !stamps.length" title="No ready stamps yet"
      >Words of one's own can be stamped anyway. A ready stamp fills in the day and the name by itself, or is a picture
      of yours: PNG, JPEG or SVG.</EmptyPlace
    >
    <ul v-else class="catalogue">
      <li v-for="stamp in stamps" :key="stamp.id">
        <StampFigure
          :colour="stamp.colour"
          :text="shown(stamp.text)"
          :width="stamp.width"
          :height="stamp.height"
          :picture="stamp.picture ? pictureOf(stamp) : ''"
        />
        <b>{{ stamp.name }}</b>
        <small class="quiet">{{ rolesOf(stamp) }}</small>
        <span v-if="mayChange">
          <button class="button-link" :aria-label="`Change ${stamp.name}`" @click="change(stamp)">Change</button> ·
          <button class="button-link" :aria-label="`Remove ${stamp.name}`" @click="remove(stamp)">Remove</button>
        </span>
      </li>
    </ul>
    <FormDialog
      v-if="draft"
      title="Stamp"
      verb="Keep"
      :ready="draft.name.trim() !== '' && (draft.text.trim() !== '' || file !== undefined || draft.picture === true)"
      :run="save"
      @close="draft = null"
    >
      <label class="field"><span>Name</span><el-input v-model="draft.name" maxlength="80" /></label>
      <template v-if="!file && !draft.picture">
        <label class="field"
          ><span>What it says</span><el-input v-model="draft.text" type="textarea" :rows="3" maxlength="400"
        /></label>
        <p class="fields">
          <button
            v-for="field in STAMP_FIELDS"
            :key="field"
            type="button"
            class="button-link mono"
            :title="FIELD_WORDS[field]"
            @click="insert(field)"
          >
            {{ `\{${field}\}` }}
          </button>
        </p>
      </template>
      <label v-if="!draft.id" class="field"
        ><span>Or a picture of yours</span
        ><input
          type="file"
          accept=".png,.jpg,.jpeg,.svg,image/png,image/jpeg,image/svg+xml"
          @change="choosePicture(($event.target as HTMLInputElement).files?.[0])"
      /></label>
      <div class="sizes">
        <label class="field"
          ><span>Width, mm</span
          ><el-input
            :model-value="String(Math.round(draft.width / MM))"
            type="number"
            @update:model-value="draft.width = clamp(Number($event) * MM)"
        /></label>
        <label class="field"
          ><span>Height, mm</span
          ><el-input
            :model-value="String(Math.round(draft.height / MM))"
            type="number"
            @update:model-value="draft.height = clamp(Number($event) * MM)"
        /></label>
        <label class="field"><span>Colour</span><input v-model="draft.colour" type="color" /></label>
      </div>
      <label class="field"
        ><span>Placed by</span
        ><el-select
          v-model="draft.roleIds"
          multiple
          filterable
          default-first-option
          placeholder="everybody who may mark"
          ><el-option v-for="role in roles" :key="role.id" :value="role.id" :label="role.name" /></el-select
      ></label>
      <StampFigure
        :colour="draft.colour"
        :text="shown(draft.text)"
        :width="draft.width"
        :height="draft.height"
        :picture="draft.id && draft.picture ? pictureOf({ id: draft.id }) : ''"
      />
      <p v-if="file" class="quiet">{{ file.name }}</p>
    </FormDialog>
  </div>
</template>

<style scoped>
.catalogue {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 20px;
  margin: 16px 0;
  padding: 0;
  list-style: none;
}
.catalogue li {
  display: grid;
  gap: 2px;
  align-content: end;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 0 0 10px;
}
.sizes {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 0 14px;
}
</style>
