<script setup lang="ts">
import { CALLOUT_NUMBERING, CALLOUT_TAGS } from '@kindred/core/markup/callouts';
import {
  changeProject,
  INCH_FRACTIONS,
  PROJECT_KINDS,
  UNITS,
  type Project,
} from '@kindred/contract/portfolio/portfolio';
import { readNumber, writeNumber } from '@kindred/core/platform/number-text';
import { computed, reactive, ref, watch } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import PlacePicture from './PlacePicture.vue';
import SaveTemplateDialog from './SaveTemplateDialog.vue';
import { useProject } from './store.ts';
import SurveyDrawing from './SurveyDrawing.vue';

type Form = Omit<Project, 'id' | 'edition' | 'createdAt'>;
const project = useProject();
const form = reactive({}) as Form;
const edition = ref(0);
const zones = Intl.supportedValuesOf('timeZone');
const currencies = Intl.supportedValuesOf('currency');
const mayChange = computed(() => project.may('project', 'change'));
const savingTemplate = ref(false);

watch(
  () => project.view?.project,
  (loaded) => {
    if (loaded && edition.value !== loaded.edition) take(loaded);
  },
  { immediate: true },
);
function take(project: Project): void {
  const details = Object.entries(project).filter(([part]) => !['id', 'edition', 'createdAt'].includes(part));
  Object.assign(form, Object.fromEntries(details));
  edition.value = project.edition;
}

/** Empty means not known. Numbers are read as the browser's language writes them; what was understood stands below. */
type Numeric = 'latitude' | 'longitude' | 'value' | 'easting' | 'northing' | 'height' | 'trueNorth';
const locale = navigator.language;
const typed = reactive<Partial<Record<Numeric, string>>>({});
const shown = (part: Numeric): string => typed[part] ?? (form[part] === null ? '' : String(form[part] ?? ''));
const wrong = computed(() =>
  Object.values(typed).some((text) => text.trim() && readNumber(text, locale) === undefined),
);
function understood(part: Numeric): string {
  const text = typed[part]?.trim();
  if (!text) return '';
  const value = readNumber(text, locale);
  return value === undefined ? 'This is not a number.' : `Understood as ${writeNumber(value, locale)}`;
}
function set(part: Numeric, text: string): void {
  typed[part] = text;
  const value = readNumber(text, locale);
  if (!text.trim()) form[part] = null;
  else if (value !== undefined) form[part] = value;
}
const dirty = computed(() => {
  const loaded = project.view?.project;
  return (
    Boolean(loaded) &&
    Object.entries(form).some(
      ([part, value]) => JSON.stringify(value) !== JSON.stringify(loaded![part as keyof Project]),
    )
  );
});
onBeforeRouteLeave(
  () =>
    !mayChange.value ||
    !(dirty.value || wrong.value) ||
    window.confirm('The details are not saved. Leave them behind?'),
);

async function save(): Promise<void> {
  const saved = await attempt(async () => {
    const answer = await call(changeProject, { params: project.params, body: { ...form, edition: edition.value } });
    take(answer);
    for (const part of Object.keys(typed) as Numeric[]) delete typed[part];
    await project.refresh();
  });
  if (saved) sayDone('Saved.');
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Project</h1>
      <span class="spread" />
      <el-button v-if="project.view?.me.administrator" @click="savingTemplate = true">Save as template …</el-button>
    </div>
    <form v-if="edition" class="details" @submit.prevent="save">
      <section class="two">
        <label class="field wide"><span>Name</span><el-input v-model="form.name" :disabled="!mayChange" /></label>
        <label class="field"><span>Number</span><el-input v-model="form.number" :disabled="!mayChange" /></label>
        <label class="field"
          ><span>Kind</span
          ><el-select v-model="form.kind" filterable default-first-option :disabled="!mayChange"
            ><el-option-group v-for="(kinds, group) in PROJECT_KINDS" :key="group" :label="group"
              ><el-option v-for="kind in kinds" :key="kind" :value="kind" :label="kind" /></el-option-group></el-select
        ></label>
        <label class="field"
          ><span>Starts</span
          ><el-date-picker v-model="form.startsOn" value-format="YYYY-MM-DD" format="D MMM YYYY" :disabled="!mayChange"
        /></label>
        <label class="field"
          ><span>Finishes</span
          ><el-date-picker
            v-model="form.finishesOn"
            value-format="YYYY-MM-DD"
            format="D MMM YYYY"
            :disabled="!mayChange"
        /></label>
        <label class="field"
          ><span>Value</span
          ><el-input
            :model-value="shown('value')"
            inputmode="decimal"
            class="mono"
            :disabled="!mayChange"
            @update:model-value="set('value', $event)"
          /><small v-if="understood('value')" class="quiet">{{ understood('value') }}</small></label
        >
        <label class="field"
          ><span>Currency</span
          ><el-select v-model="form.currency" filterable default-first-option :disabled="!mayChange"
            ><el-option v-for="one in currencies" :key="one" :value="one" :label="one" /></el-select
        ></label>
        <label class="field"
          ><span>Time zone of all dates</span
          ><el-select v-model="form.timeZone" filterable default-first-option :disabled="!mayChange"
            ><el-option v-for="zone in zones" :key="zone" :value="zone" :label="zone" /></el-select
        ></label>
        <label class="field wide"
          ><span>Holidays, beside weekends: they are no working days</span
          ><el-date-picker
            v-model="form.holidays"
            type="dates"
            value-format="YYYY-MM-DD"
            format="D MMM YYYY"
            placeholder="none"
            :disabled="!mayChange"
            style="width: 100%"
            @update:model-value="form.holidays = ($event as string[] | null) ?? []"
        /></label>
        <label class="field"
          ><span>Units of lengths</span
          ><span class="row"
            ><el-select v-model="form.units" :disabled="!mayChange" aria-label="Units"
              ><el-option v-for="one in UNITS" :key="one" :value="one" :label="one" /></el-select
            ><el-select
              v-if="form.units !== 'metric'"
              v-model="form.inchFraction"
              style="width: 110px"
              :disabled="!mayChange"
              aria-label="Smallest fraction of an inch"
              ><el-option
                v-for="n in INCH_FRACTIONS"
                :key="n"
                :value="n"
                :label="n === 1 ? 'whole inch' : `1/${n} inch`" /></el-select></span
        ></label>
        <label class="field"
          ><span>Callouts on sheets</span
          ><span class="row"
            ><el-select v-model="form.calloutNumbering" :disabled="!mayChange" aria-label="How callouts are numbered"
              ><el-option
                v-for="one in CALLOUT_NUMBERING"
                :key="one"
                :value="one"
                :label="`numbered within each ${one}`" /></el-select
            ><el-select
              v-model="form.calloutTag"
              style="width: 110px"
              :disabled="!mayChange"
              aria-label="Tag of callouts"
              ><el-option v-for="one in CALLOUT_TAGS" :key="one" :value="one" :label="one" /></el-select></span
        ></label>
      </section>
      <section class="place">
        <div>
          <h2>Place</h2>
          <label class="field"><span>Address</span><el-input v-model="form.address" :disabled="!mayChange" /></label>
          <div class="row">
            <label class="field" style="flex: 1"
              ><span>Latitude, degrees north</span
              ><el-input
                :model-value="shown('latitude')"
                inputmode="decimal"
                class="mono"
                :disabled="!mayChange"
                @update:model-value="set('latitude', $event)"
              /><small v-if="understood('latitude')" class="quiet">{{ understood('latitude') }}</small></label
            >
            <label class="field" style="flex: 1"
              ><span>Longitude, degrees east</span
              ><el-input
                :model-value="shown('longitude')"
                inputmode="decimal"
                class="mono"
                :disabled="!mayChange"
                @update:model-value="set('longitude', $event)"
              /><small v-if="understood('longitude')" class="quiet">{{ understood('longitude') }}</small></label
            >
          </div>
        </div>
        <PlacePicture :latitude="form.latitude" :longitude="form.longitude" />
      </section>
      <section class="survey">
        <h2>Survey position</h2>
        <div class="row" style="align-items: start; gap: 20px">
          <div style="width: 190px">
            <label
              v-for="(words, part) in {
                easting: 'Easting of the origin, m',
                northing: 'Northing of the origin, m',
                height: 'Height of the origin, m',
                trueNorth: 'True north, degrees clockwise',
              }"
              :key="part"
              class="field"
              ><span>{{ words }}</span
              ><el-input
                :model-value="shown(part)"
                inputmode="decimal"
                class="mono"
                :disabled="!mayChange"
                @update:model-value="set(part, $event)"
              /><small v-if="understood(part)" class="quiet">{{ understood(part) }}</small></label
            >
          </div>
          <SurveyDrawing
            :easting="form.easting"
            :northing="form.northing"
            :height="form.height"
            :true-north="form.trueNorth"
          />
        </div>
      </section>
      <div class="foot">
        <el-button v-if="mayChange" type="primary" native-type="submit" :disabled="!form.name.trim() || wrong"
          >Save</el-button
        >
        <span v-if="wrong" class="sign needs-you after">One of the numbers cannot be read.</span>
      </div>
    </form>
    <SaveTemplateDialog v-if="savingTemplate" @close="savingTemplate = false" />
  </div>
</template>

<style scoped>
.details {
  display: grid;
  grid-template-columns: minmax(0, 430px) minmax(0, 620px);
  gap: 10px 36px;
}
.two {
  grid-row: 1 / 3;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 16px;
  align-content: start;
}
.wide,
.foot {
  grid-column: 1 / 3;
}
.place {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 20px;
}
h2 {
  margin-bottom: 8px;
}
@media (max-width: 700px) {
  .details,
  .two,
  .place {
    grid-template-columns: minmax(0, 1fr);
  }
  .two {
    grid-row: auto;
  }
  .wide,
  .foot {
    grid-column: auto;
  }
}
</style>
