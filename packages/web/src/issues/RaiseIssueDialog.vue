<script setup lang="ts">
import { raiseIssue, type ResponsibleRef } from '@kindred/contract/issues/issues';
import type { IssueElement } from '@kindred/contract/issues/ties';
import type { ViewpointToAdd } from '@kindred/contract/scene/scene';
import { ruleOf, usualPriority, type RequirableField } from '@kindred/core/issues/settings';
import { addWorkingDays } from '@kindred/core/platform/working-days';
import { useQueryCache } from '@pinia/colada';
import dayjs from 'dayjs';
import { computed, onBeforeUnmount, reactive, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../platform/api.ts';
import FormDialog from '../platform/FormDialog.vue';
import { sendFile } from '../register/send-file.ts';
import PersonSelect from '../people/PersonSelect.vue';
import { usePeople } from '../people/store.ts';
import { useProject } from '../portfolio/store.ts';
import DueField from './DueField.vue';
import { TAKEN } from './marking.ts';
import PictureMarker from './PictureMarker.vue';
import ResponsibleSelect from './ResponsibleSelect.vue';
import { useIssueSettings } from './store.ts';

const props = defineProps<{
  place?: { versionId: string; page: number | null; x: number; y: number; zoom?: number | null };
  /** Address of a picture that is kept with the viewpoint anyway. */
  picture?: string;
  /** A picture that was taken for the issue. */
  taken?: Blob | undefined;
  /** More of what it looked like; they are kept with the issue. */
  pictures?: readonly { caption: string; file: Blob; address: string }[];
  /** The first one of the project where nothing is said, or the project has none of that name. */
  type?: string;
  /** What it is about, as a title to begin with. */
  about?: string;
  /** The markup that it is raised from, and what it says. */
  markup?: { id: string; text: string };
  takeViewpoint?: (name: string) => ViewpointToAdd;
  elements?: readonly IssueElement[];
  /** Things of other kinds that it is about. */
  things?: readonly { type: string; id: string }[];
  /** Before its page is shown. */
  raised?: (issueId: string) => Promise<unknown>;
}>();
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const project = useProject();
const cache = useQueryCache();
const people = usePeople();
const kept = useIssueSettings();

const form = reactive({
  title: (props.markup?.text.split('\n')[0] ?? props.about ?? '').slice(0, 200),
  description: props.markup?.text ?? '',
  type: '',
  priority: '',
  responsible: null as ResponsibleRef | null,
  verifierId: null as string | null,
  watcherIds: [] as string[],
  labels: [] as string[],
  dueOn: null as string | null,
});
const more = ref(false);
const holidays = computed(() => project.view?.project.holidays ?? []);
watch(
  () => kept.settings,
  (settings) => {
    const wanted = form.type || (props.type ?? '');
    form.type = settings.types.find(({ name }) => name === wanted)?.name ?? settings.types[0]!.name;
    form.priority ||= usualPriority(settings);
  },
  { immediate: true },
);
const rule = computed(() => ruleOf(kept.settings, form.type));
/** The day that the type proposes gives way to one that somebody chose. */
let proposed: string | null = null;
watch(
  () => [rule.value.answerDays, holidays.value] as const,
  ([days, off]) => {
    if (form.dueOn !== proposed) return;
    proposed = days === null ? null : addWorkingDays(dayjs().format('YYYY-MM-DD'), days, new Set(off));
    form.dueOn = proposed;
  },
  { immediate: true },
);
const needs = (field: RequirableField): boolean => rule.value.requires.includes(field);
const FILLED: Record<RequirableField, () => boolean> = {
  description: () => form.description.trim() !== '',
  responsible: () => form.responsible !== null,
  dueOn: () => form.dueOn !== null,
  place: () => Boolean(props.place ?? props.takeViewpoint),
  labels: () => form.labels.length > 0,
};
const ready = computed(() => form.title.trim() !== '' && rule.value.requires.every((field) => FILLED[field]()));

const takenAddress = props.taken ? URL.createObjectURL(props.taken) : '';
onBeforeUnmount(() => takenAddress && URL.revokeObjectURL(takenAddress));
const shown = computed(() => takenAddress || props.picture || '');
const marker = ref<InstanceType<typeof PictureMarker>>();

async function sendPictures(): Promise<{ caption: string; uploadId: string }[]> {
  const marked = await marker.value?.taken();
  const first = marked ?? props.taken;
  const files = [...(first ? [{ caption: TAKEN, file: first }] : []), ...(props.pictures ?? [])];
  const sent = [];
  for (const { caption, file } of files)
    sent.push({
      caption,
      uploadId: await sendFile(project.projectId, new File([file], `${caption}.png`), 'issue'),
    });
  return sent;
}

async function raise(): Promise<void> {
  const pictures = await sendPictures();
  const viewpoint = props.takeViewpoint?.(form.title);
  const issue = await call(raiseIssue, {
    params: project.params,
    body: {
      ...form,
      pictures,
      ...(viewpoint && { viewpoint }),
      place: props.place ?? null,
      markupId: props.markup?.id ?? null,
      elements: [...(props.elements ?? [])],
      things: [...(props.things ?? [])],
    },
  });
  await props.raised?.(issue.id);
  await cache.invalidateQueries({ key: [project.projectId, 'issue'] });
  await router.push({ name: 'issue', params: { projectId: project.projectId, issueId: issue.id } });
}
</script>

<template>
  <FormDialog
    title="Raise an issue"
    verb="Raise issue"
    :width="shown ? 860 : 560"
    :ready="ready"
    :run="raise"
    @close="emit('close')"
  >
    <div class="sides" :class="{ two: shown }">
      <div v-if="shown">
        <PictureMarker ref="marker" :picture="shown" />
        <p v-if="elements?.length" class="quiet">
          {{ elements.length === 1 ? `With the element ${elements[0]!.name}` : `With ${elements.length} elements` }}
        </p>
      </div>
      <div>
        <div v-if="pictures?.length" class="pictures">
          <figure v-for="one in pictures" :key="one.caption">
            <img :src="one.address" :alt="one.caption" />
            <figcaption class="quiet">{{ one.caption }}</figcaption>
          </figure>
        </div>
        <label class="field"><span>Title</span><el-input v-model="form.title" maxlength="200" autofocus /></label>
        <label class="field"
          ><span>What is asked, or wrong<i v-if="needs('description')"> needed</i></span
          ><el-input v-model="form.description" type="textarea" :rows="3"
        /></label>
        <div class="grid">
          <label class="field"
            ><span>Type</span
            ><el-select v-model="form.type"
              ><el-option v-for="{ name } in kept.settings.types" :key="name" :value="name" :label="name" /></el-select
          ></label>
          <label class="field"
            ><span>Priority</span
            ><el-select v-model="form.priority"
              ><el-option v-for="{ name } in kept.settings.priorities" :key="name" :value="name" :label="name"
                ><span class="mono quiet">{{ kept.bars(name) }}</span> {{ name }}</el-option
              ></el-select
            ></label
          >
          <label class="field"
            ><span>Who answers<i v-if="needs('responsible')"> needed</i></span
            ><ResponsibleSelect
              v-model="form.responsible"
              :members="people.members"
              :teams="people.data?.teams ?? []"
              :roles="people.data?.roles ?? []"
          /></label>
          <div class="field">
            <span>Due<i v-if="needs('dueOn')"> needed</i></span
            ><DueField v-model="form.dueOn" :holidays="holidays" />
          </div>
        </div>
        <label v-if="kept.settings.labels.length" class="field"
          ><span>Labels<i v-if="needs('labels')"> needed</i></span
          ><el-select v-model="form.labels" multiple filterable default-first-option placeholder="none"
            ><el-option v-for="label in kept.settings.labels" :key="label" :value="label" :label="label" /></el-select
        ></label>
        <button v-if="!more" type="button" class="button-link" @click="more = true">Who verifies, who watches …</button>
        <div v-else class="grid">
          <label class="field"
            ><span>Verifies the answer</span
            ><PersonSelect v-model="form.verifierId" :members="people.members" placeholder="I do"
          /></label>
          <label class="field"
            ><span>Watch it</span
            ><PersonSelect v-model="form.watcherIds" multiple :members="people.members" placeholder="nobody else"
          /></label>
        </div>
        <p v-if="needs('place') && !FILLED.place()" class="sign needs-you full" role="alert">
          An issue of this type needs a place: raise it in the scene or on a sheet.
        </p>
      </div>
    </div>
  </FormDialog>
</template>

<style scoped>
.sides.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 22px;
}
.pictures {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin-bottom: 10px;
}
.pictures figure {
  margin: 0;
}
.pictures img {
  width: 100%;
  border: 1px solid var(--hairline);
}
.grid {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 14px;
  align-items: start;
}
i {
  font-style: normal;
  color: var(--needs-you);
}
@media (max-width: 700px) {
  .sides.two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
