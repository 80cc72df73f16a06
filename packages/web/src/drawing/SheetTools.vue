<script setup lang="ts">
/** The tools of the table, by what one is doing: look, mark, measure. */
import {
  Expand,
  Layers,
  Maximize,
  MoveHorizontal,
  Printer,
  RotateCw,
  Undo2,
  Redo2,
  ZoomIn,
  ZoomOut,
} from '@lucide/vue';
import { computed } from 'vue';
import ToolStrip from '../platform/ToolStrip.vue';
import type { SheetTool } from './tools/sheet-tools.ts';

const props = defineProps<{
  tools: readonly SheetTool[];
  mayUndo: boolean;
  mayRedo: boolean;
  marks: boolean;
  /** How many there are. */
  sheets: number;
  layers: readonly { id: string; name: string; visible: boolean }[];
}>();
const tool = defineModel<string>('tool', { required: true });
const group = defineModel<SheetTool['group']>('group', { required: true });
const emit = defineEmits<{
  zoom: [factor: number];
  fit: [];
  width: [];
  turn: [];
  undo: [];
  redo: [];
  fullScreen: [];
  print: [which: 'this' | 'all' | 'some', withMarkups: boolean];
  layer: [id: string, visible: boolean];
}>();

const WORDS: Record<SheetTool['group'], string> = { look: 'Look', mark: 'Mark', measure: 'Measure' };
const groups = computed(() => [...new Set(props.tools.map((one) => one.group))]);
const shown = computed(() => props.tools.filter((one) => one.group === group.value));
</script>

<template>
  <div class="tools">
    <slot name="above" />
    <p class="hint">{{ tools.find(({ name }) => name === tool)?.hint }}</p>
    <div class="strips">
      <ToolStrip label="What to do">
        <button
          v-for="name in groups"
          :key="name"
          class="group"
          :class="{ active: group === name }"
          :aria-pressed="group === name"
          @click="group = name"
        >
          {{ WORDS[name] }}
        </button>
      </ToolStrip>
      <ToolStrip :label="`Tools to ${WORDS[group].toLowerCase()}`">
        <button
          v-for="item in shown"
          :key="item.name"
          :class="{ active: tool === item.name }"
          :aria-pressed="tool === item.name"
          :title="`${item.word} (${item.key.toUpperCase()})`"
          @click="tool = item.name"
        >
          <component :is="item.icon" :size="16" :stroke-width="1.5" /> {{ item.word }}
        </button>
        <template v-if="group === 'look'">
          <i />
          <button title="Closer (+)" @click="emit('zoom', 1.4)"><ZoomIn :size="16" :stroke-width="1.5" /></button>
          <button title="Farther (−)" @click="emit('zoom', 1 / 1.4)"><ZoomOut :size="16" :stroke-width="1.5" /></button>
          <button title="Whole sheet (0)" @click="emit('fit')"><Maximize :size="16" :stroke-width="1.5" /></button>
          <button title="Whole width (9)" @click="emit('width')">
            <MoveHorizontal :size="16" :stroke-width="1.5" />
          </button>
          <button title="Turn the sheet (R)" @click="emit('turn')"><RotateCw :size="16" :stroke-width="1.5" /></button>
          <button title="Full screen" @click="emit('fullScreen')"><Expand :size="16" :stroke-width="1.5" /></button>
          <el-dropdown trigger="click" placement="top-start">
            <button title="Print"><Printer :size="16" :stroke-width="1.5" /></button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item @click="emit('print', 'this', true)">This sheet, with its markups</el-dropdown-item>
                <el-dropdown-item @click="emit('print', 'this', false)">This sheet alone</el-dropdown-item>
                <template v-if="sheets > 1">
                  <el-dropdown-item divided @click="emit('print', 'all', true)"
                    >All {{ sheets }} sheets, with their markups</el-dropdown-item
                  >
                  <el-dropdown-item @click="emit('print', 'some', true)"
                    >Some sheets, with their markups …</el-dropdown-item
                  >
                  <el-dropdown-item @click="emit('print', 'all', false)"
                    >All {{ sheets }} sheets alone</el-dropdown-item
                  >
                </template>
              </el-dropdown-menu>
            </template>
          </el-dropdown>
          <el-dropdown v-if="layers.length" trigger="click" placement="top-start" :hide-on-click="false">
            <button title="Layers of the drawing"><Layers :size="16" :stroke-width="1.5" /></button>
            <template #dropdown>
              <el-dropdown-menu>
                <el-dropdown-item
                  v-for="layer in layers"
                  :key="layer.id"
                  @click="emit('layer', layer.id, !layer.visible)"
                  ><input
                    type="checkbox"
                    :checked="layer.visible"
                    tabindex="-1"
                    :aria-label="`Layer ${layer.name}`"
                  />&nbsp;{{ layer.name || 'without a name' }}</el-dropdown-item
                >
              </el-dropdown-menu>
            </template>
          </el-dropdown>
        </template>
        <slot name="chosen" />
        <template v-if="marks">
          <i />
          <button title="Undo (Ctrl Z)" :disabled="!mayUndo" @click="emit('undo')">
            <Undo2 :size="16" :stroke-width="1.5" />
          </button>
          <button title="Redo (Ctrl Y)" :disabled="!mayRedo" @click="emit('redo')">
            <Redo2 :size="16" :stroke-width="1.5" />
          </button>
        </template>
      </ToolStrip>
    </div>
  </div>
</template>

<style scoped>
.tools {
  min-width: 0;
  background: var(--sheet);
}
.strips {
  display: flex;
  min-width: 0;
}
.strips > :last-child {
  flex: 1;
  min-width: 0;
}
.group {
  font-weight: 600;
}
.hint {
  margin: 0;
  padding: 3px 12px;
  color: var(--graphite);
  font-size: 12px;
  border-top: 1px solid var(--hairline);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
