<script setup lang="ts">
/** The sun as it stands over the models at a date and an hour, with its shadows. */
import { daylight, sunAt, type SunPlace } from '@kindred/core/scene/sun';
import type { Point } from '@kindred/core/scene/pick';
import { Pause, Play, X } from '@lucide/vue';
import { useIntervalFn } from '@vueuse/core';
import { zip } from 'fflate';
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import { saveBlob } from '../platform/files.ts';
import { useTime } from '../platform/time.ts';

const props = defineProps<{
  /** As the models say it; zeros where they do not. */
  place: SunPlace;
  /** They do say it. */
  known: boolean;
  /** PNG of what is seen, as a data URL, when it is finished. */
  picture: () => string;
}>();
const emit = defineEmits<{ shine: [towards: Point | null]; close: [] }>();
const time = useTime();

const rounded = (degrees: number): number => Math.round(degrees * 1e3) / 1e3;
const latitude = ref(rounded(props.place.latitude));
const longitude = ref(rounded(props.place.longitude));
const north = ref(rounded(props.place.trueNorth));
const YEAR = new Date().getFullYear();
const MINUTES = 1440;
const day = ref(172);
const minute = ref(720);
const site = computed((): SunPlace => ({
  latitude: Number(latitude.value) || 0,
  longitude: Number(longitude.value) || 0,
  trueNorth: Number(north.value) || 0,
}));
const momentAt = (ofDay: number, ofMinute: number): Date => time.atClock(YEAR, ofDay - 1, ofMinute);
const moment = computed(() => momentAt(day.value, minute.value));
const sun = computed(() => sunAt(moment.value, site.value));
const light = computed(() => daylight(moment.value, site.value));
watch(sun, ({ towards }) => emit('shine', towards), { immediate: true });
onBeforeUnmount(() => emit('shine', null));

type Span = 'day' | 'year';
const playing = ref<Span>();
const STEP = { day: 10, year: 3 };
const { pause, resume } = useIntervalFn(
  () => {
    if (playing.value === 'day') minute.value = (minute.value + STEP.day) % MINUTES;
    else day.value = (day.value % 365) + STEP.year;
  },
  120,
  { immediate: false },
);
function play(span: Span): void {
  playing.value = playing.value === span ? undefined : span;
  if (playing.value) resume();
  else pause();
}

const pngOf = (address: string): Uint8Array =>
  Uint8Array.from(atob(address.slice(address.indexOf(',') + 1)), (letter) => letter.charCodeAt(0));
const nameOf = (at: Date): string => `sun-${at.toISOString().slice(0, 16).replace(/[:T]/g, '-')}.png`;
const savePicture = (): void =>
  saveBlob(new Blob([pngOf(props.picture()) as never], { type: 'image/png' }), nameOf(moment.value));
/** The hours of the day at which the sun is up. */
const made = ref(0);
async function saveFrames(): Promise<void> {
  const before = minute.value;
  const files: Record<string, Uint8Array> = {};
  for (let hour = 0; hour < 24; hour++) {
    const at = momentAt(day.value, hour * 60);
    const { altitude, towards } = sunAt(at, site.value);
    if (altitude <= 0) continue;
    emit('shine', towards);
    await new Promise((resolve) => requestAnimationFrame(resolve));
    files[nameOf(at)] = pngOf(props.picture());
    made.value++;
  }
  made.value = 0;
  minute.value = before;
  emit('shine', sun.value.towards);
  // Pictures are packed already.
  zip(files, { level: 0 }, (error, packed) => {
    if (error) throw error;
    saveBlob(new Blob([packed as never], { type: 'application/zip' }), 'sun.zip');
  });
}
</script>

<template>
  <section class="sun" aria-label="Sun">
    <header>
      <h2>Sun</h2>
      <span class="mono">{{ time.moment(moment.toISOString()) }}</span>
      <button title="Even light again" @click="emit('close')"><X :size="15" /></button>
    </header>
    <label
      ><span>Day</span><input v-model.number="day" type="range" min="1" max="365" aria-label="Day of the year" /><button
        :title="playing === 'year' ? 'Stop' : 'Play the year'"
        @click="play('year')"
      >
        <component :is="playing === 'year' ? Pause : Play" :size="13" /></button
    ></label>
    <label
      ><span>Hour</span
      ><input
        v-model.number="minute"
        type="range"
        min="0"
        :max="MINUTES - 1"
        step="5"
        aria-label="Hour of the day" /><button
        :title="playing === 'day' ? 'Stop' : 'Play the day'"
        @click="play('day')"
      >
        <component :is="playing === 'day' ? Pause : Play" :size="13" /></button
    ></label>
    <p role="status">
      <template v-if="sun.altitude > 0"
        ><b class="mono">{{ sun.altitude.toFixed(1) }}°</b> high, <b class="mono">{{ sun.azimuth.toFixed(0) }}°</b> from
        north</template
      >
      <template v-else>The sun is below the horizon.</template>
      <span v-if="light" class="quiet"
        >&ensp;rises {{ time.clock(light.rises.toISOString()) }}, sets {{ time.clock(light.sets.toISOString()) }}</span
      >
    </p>
    <p class="place">
      <label>North <input v-model="latitude" inputmode="decimal" aria-label="Latitude, degrees north" /></label>
      <label>East <input v-model="longitude" inputmode="decimal" aria-label="Longitude, degrees east" /></label>
      <label>True north <input v-model="north" inputmode="decimal" aria-label="True north, degrees clockwise" /></label>
    </p>
    <p class="quiet">
      {{ known ? 'Place and north as the model says them.' : 'The models do not say where they stand: write it here.' }}
    </p>
    <p class="row">
      <button class="button-link" @click="savePicture">Save picture</button>
      <button class="button-link" :disabled="made > 0" @click="saveFrames">
        {{ made ? `${made} pictures …` : 'Hours of the day as ZIP' }}
      </button>
    </p>
  </section>
</template>

<style scoped>
.sun {
  position: absolute;
  right: 14px;
  top: 52px;
  width: 292px;
  padding: 6px 12px 8px;
  background: var(--sheet);
  border: 1px solid var(--hairline);
  font-size: 12px;
}
header {
  display: flex;
  align-items: center;
  gap: 10px;
}
header span {
  flex: 1;
}
h2 {
  margin: 0;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
label > span {
  width: 34px;
}
input[type='range'] {
  flex: 1;
  min-width: 0;
}
button {
  border: 0;
  background: none;
  min-width: 24px;
  min-height: 24px;
  cursor: pointer;
  color: var(--graphite);
}
.button-link {
  color: var(--action);
}
p {
  margin: 3px 0;
}
.place {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 8px;
}
.place label {
  display: grid;
  gap: 2px;
}
.place input {
  min-width: 0;
  height: 26px;
  border: 1px solid var(--hairline);
  background: var(--sheet);
  font: inherit;
}
</style>
