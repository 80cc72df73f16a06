<script setup lang="ts">
/** The tools of the scene, by what one is doing: move, look, cut, measure, mark, keep. */
import type { MarkKind, MeasureKind } from '@kindred/core/scene/measure';
import {
  BoxSelect,
  Eye,
  EyeOff,
  Focus,
  Footprints,
  Ghost,
  Home,
  Layers,
  Orbit,
  PencilLine,
  Plane,
  RotateCw,
  Ruler,
  SquareSplitVertical,
  ZoomIn,
} from '@lucide/vue';
import ToolStrip from '../platform/ToolStrip.vue';
import type { CameraMode, Projection } from './engine/cameras.ts';
import type { Appearance } from './engine/scene-engine.ts';
import { MARK_TOOLS, MEASURE_TOOLS, type SceneTool } from './tools.ts';

export interface Storey {
  name: string;
  elevation: number;
}
defineProps<{
  mode: CameraMode;
  projection: Projection;
  appearance: Appearance;
  storeys: readonly Storey[];
  lifted: boolean;
  hasSections: boolean;
  hasSelection: boolean;
  isThinned: boolean;
}>();
const tool = defineModel<SceneTool>('tool', { required: true });
const emit = defineEmits<{
  home: [];
  mode: [mode: CameraMode];
  projection: [projection: Projection];
  plan: [elevation: number];
  appearance: [appearance: Appearance];
  cut: [how: 'z' | 'x' | 'y' | 'face' | 'box' | 'none'];
  lift: [];
  sun: [];
  elements: [act: 'closer' | 'hide' | 'isolate' | 'ghost' | 'show'];
}>();
const MODES = [
  ['orbit', 'Orbit', 'Turn about what one points at', Orbit],
  ['turn', 'On the spot', 'Look around from where one is: drag, or arrows', RotateCw],
  ['fly', 'Fly', 'W A S D or arrows, Q down, E up, Shift faster, wheel for the pace', Plane],
  ['walk', 'Walk', 'W A S D or arrows, feet on the floor; double-click stands one elsewhere', Footprints],
] as const;
const LOOKS = [
  ['edges', 'Edges'],
  ['shading', 'Soft shading'],
  ['ground', 'Ground'],
  ['capWithColour', 'Cut faces in the colour of the element'],
  ['onlyLargest', 'Only what is largest of large models'],
] as const;
function take(text: string): void {
  const [act, kind] = text.split(':');
  tool.value = act === 'measure' ? { act, kind: kind as MeasureKind } : { act: 'mark', kind: kind as MarkKind };
}
const isTool = (current: SceneTool, act: SceneTool['act']): boolean => current.act === act;
</script>

<template>
  <ToolStrip label="Tools of the scene">
    <button title="See everything (H)" data-help="scene/home" @click="emit('home')">
      <Home :size="16" :stroke-width="1.5" /> Home
    </button>
    <el-dropdown trigger="click" @command="emit('mode', $event)"
      ><button :class="{ active: mode !== 'orbit' }" title="How one moves (O, T, F, W)" data-help="scene/mode">
        <component :is="MODES.find(([one]) => one === mode)![3]" :size="16" :stroke-width="1.5" />
        {{ MODES.find(([one]) => one === mode)![1] }}</button
      ><template #dropdown
        ><el-dropdown-menu
          ><el-dropdown-item v-for="[one, words, about] in MODES" :key="one" :command="one"
            ><span class="way"
              >{{ words }}<small class="quiet">{{ about }}</small></span
            ></el-dropdown-item
          ></el-dropdown-menu
        ></template
      ></el-dropdown
    >
    <el-dropdown trigger="click" @command="($event as () => void)()"
      ><button data-help="scene/view"><Layers :size="16" :stroke-width="1.5" /> View</button
      ><template #dropdown
        ><el-dropdown-menu>
          <el-dropdown-item
            :command="() => emit('projection', projection === 'perspective' ? 'orthographic' : 'perspective')"
            >{{ projection === 'perspective' ? 'Orthographic' : 'Perspective' }} (P)</el-dropdown-item
          >
          <el-dropdown-item v-for="storey in storeys" :key="storey.name" :command="() => emit('plan', storey.elevation)"
            >Plan of {{ storey.name }}</el-dropdown-item
          >
          <el-dropdown-item divided :command="() => emit('sun')">Sun and shadows</el-dropdown-item>
          <el-dropdown-item :command="() => emit('lift')">{{
            lifted ? 'Storeys back in place' : 'Lift storeys apart'
          }}</el-dropdown-item>
          <el-dropdown-item
            v-for="[key, words] in LOOKS"
            :key="key"
            :command="() => emit('appearance', { ...appearance, [key]: !appearance[key] })"
            >{{ appearance[key] ? '✓' : '·' }} {{ words }}</el-dropdown-item
          >
        </el-dropdown-menu></template
      ></el-dropdown
    >
    <i />
    <el-dropdown trigger="click" @command="emit('cut', $event)"
      ><button data-help="scene/section" :class="{ active: hasSections || isTool(tool, 'cut') }">
        <SquareSplitVertical :size="16" :stroke-width="1.5" /> Section</button
      ><template #dropdown
        ><el-dropdown-menu
          ><el-dropdown-item command="z">level</el-dropdown-item><el-dropdown-item command="x">across</el-dropdown-item
          ><el-dropdown-item command="y">along</el-dropdown-item
          ><el-dropdown-item command="face">at a face</el-dropdown-item
          ><el-dropdown-item command="box">box around the selection</el-dropdown-item
          ><el-dropdown-item divided command="none">remove all</el-dropdown-item></el-dropdown-menu
        ></template
      ></el-dropdown
    >
    <el-dropdown trigger="click" @command="take($event)"
      ><button :class="{ active: isTool(tool, 'measure') }" title="Measure (M)" data-help="scene/measure">
        <Ruler :size="16" :stroke-width="1.5" /> Measure</button
      ><template #dropdown
        ><el-dropdown-menu
          ><el-dropdown-item v-for="{ kind, words } in MEASURE_TOOLS" :key="kind" :command="`measure:${kind}`">{{
            words
          }}</el-dropdown-item></el-dropdown-menu
        ></template
      ></el-dropdown
    >
    <el-dropdown trigger="click" @command="take($event)"
      ><button data-help="scene/mark" :class="{ active: isTool(tool, 'mark') }">
        <PencilLine :size="16" :stroke-width="1.5" /> Mark</button
      ><template #dropdown
        ><el-dropdown-menu
          ><el-dropdown-item v-for="{ kind, words } in MARK_TOOLS" :key="kind" :command="`mark:${kind}`">{{
            words
          }}</el-dropdown-item></el-dropdown-menu
        ></template
      ></el-dropdown
    >
    <button
      title="Select with a frame (B)"
      data-help="scene/frame"
      :class="{ active: isTool(tool, 'frame') }"
      @click="tool = isTool(tool, 'frame') ? { act: 'choose' } : { act: 'frame' }"
    >
      <BoxSelect :size="16" :stroke-width="1.5" /> Frame
    </button>
    <i />
    <button
      title="Look closer (E)"
      data-help="scene/closer"
      :disabled="!hasSelection"
      @click="emit('elements', 'closer')"
    >
      <ZoomIn :size="16" :stroke-width="1.5" /> Closer
    </button>
    <button
      title="Hide what is selected (X)"
      data-help="scene/hide"
      :disabled="!hasSelection"
      @click="emit('elements', 'hide')"
    >
      <EyeOff :size="16" :stroke-width="1.5" /> Hide
    </button>
    <button
      title="What is selected as ghosts (G)"
      data-help="scene/ghost"
      :disabled="!hasSelection"
      @click="emit('elements', 'ghost')"
    >
      <Ghost :size="16" :stroke-width="1.5" /> Ghost
    </button>
    <button
      title="Only what is selected (I)"
      data-help="scene/isolate"
      :disabled="!hasSelection"
      @click="emit('elements', 'isolate')"
    >
      <Focus :size="16" :stroke-width="1.5" /> Isolate
    </button>
    <button title="Show all (A)" data-help="scene/show" :disabled="!isThinned" @click="emit('elements', 'show')">
      <Eye :size="16" :stroke-width="1.5" /> Show all
    </button>
  </ToolStrip>
</template>

<style scoped>
.way {
  display: grid;
  line-height: 1.3;
  padding: 3px 0;
}
</style>
