<script setup lang="ts">
/** What is open on the table: the drawing, its version and sheet, the scale, and the ways to words and lists. */
import type { Sheet } from '@kindred/contract/drawing/drawing';
import { LENGTH_UNITS } from '@kindred/core/platform/length';
import { GalleryVertical, Search } from '@lucide/vue';
import VersionSelect from '../register/VersionSelect.vue';
import type { ChosenUnits } from '../identity/measure-units.ts';
import { sayScale } from './sheet-scale.ts';

defineProps<{
  code: string;
  version: number;
  versions: readonly { id: string; number: number; revision: string }[];
  page: number;
  sheets: readonly Sheet[];
  /** Absent where nothing can be measured; of a sheet without a scale it names no metres. */
  scale?: { metresPerPoint: number | undefined; calibrated: boolean };
  units: ChosenUnits;
}>();
const emit = defineEmits<{
  version: [number];
  page: [number];
  calibrate: [];
  region: [];
  beside: [];
  forget: [];
  units: [ChosenUnits];
  find: [];
  pages: [];
}>();
const UNIT_WORDS = { metric: 'metres', millimetres: 'millimetres', 'feet and inches': 'feet and inches' };
</script>

<template>
  <div class="head row">
    <b class="mono">{{ code }}</b>
    <VersionSelect :version="version" :versions="versions" label="Version" @version="emit('version', $event)" />
    <span class="spread" />
    <el-select
      v-if="sheets.length > 1"
      :model-value="page"
      size="small"
      style="width: 150px"
      aria-label="Sheet"
      @update:model-value="emit('page', $event)"
      ><el-option v-for="one in sheets" :key="one.id" :value="one.page" :label="one.label"
    /></el-select>
    <button
      v-if="sheets.length > 1"
      class="button-link"
      title="All sheets of this drawing"
      aria-label="All sheets of this drawing"
      @click="emit('pages')"
    >
      <GalleryVertical :size="16" />
    </button>
    <el-dropdown v-if="scale" trigger="click">
      <button class="button-link mono" aria-label="Scale and units of measures">
        {{ scale.metresPerPoint ? sayScale(scale.metresPerPoint) : 'No scale' }}
      </button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item @click="emit('calibrate')">Calibrate by a length that you know …</el-dropdown-item>
          <el-dropdown-item @click="emit('region')">A region with a scale of its own …</el-dropdown-item>
          <el-dropdown-item v-if="scale.calibrated" @click="emit('forget')"
            >Take the scale of the title block</el-dropdown-item
          >
          <el-dropdown-item divided :disabled="units === 'project'" @click="emit('units', 'project')"
            >Measure as the project does</el-dropdown-item
          >
          <el-dropdown-item
            v-for="unit in LENGTH_UNITS"
            :key="unit"
            :disabled="units === unit"
            @click="emit('units', unit)"
            >Measure in {{ UNIT_WORDS[unit] }}</el-dropdown-item
          >
        </el-dropdown-menu>
      </template>
    </el-dropdown>
    <button class="button-link row" title="Find words (Ctrl F)" @click="emit('find')">
      <Search :size="15" /> Find
    </button>
    <button v-if="versions.length > 1" class="button-link" @click="emit('beside')">Beside</button>
    <slot />
  </div>
</template>

<style scoped>
.head > * {
  white-space: nowrap;
}
.head > b {
  overflow: hidden;
  text-overflow: ellipsis;
}
.head {
  padding: 5px 12px;
  border-bottom: 1px solid var(--hairline);
  min-height: 36px;
}
@media (max-width: 700px) {
  .head .el-select {
    flex: 1;
    min-width: 140px;
    width: auto !important;
  }
}
</style>
