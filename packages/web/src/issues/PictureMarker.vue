<script setup lang="ts">
/** Draws on a picture before it is kept. */
import Konva from 'konva';
import { Minus, MoveUpRight, Square, Type, Undo2 } from '@lucide/vue';
import { onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef } from 'vue';
import { drawnTo, isSeen, MARK_TOOLS, type MarkTool, type PictureMark } from './marking.ts';

const props = defineProps<{ picture: string }>();
const ICONS = { pen: Minus, arrow: MoveUpRight, box: Square, word: Type };
const COLOUR = '#b4502d';
const FONT = 'Archivo Variable';
const frame = useTemplateRef<HTMLDivElement>('frame');
const tool = ref<MarkTool>();
const marks = shallowRef<readonly PictureMark[]>([]);
const writing = ref<{ mark: PictureMark; left: number; top: number }>();
const text = ref('');

let stage: Konva.Stage | undefined;
let size: readonly [number, number] = [1, 1];
const drawings = new Konva.Layer();

function shapeOf({ tool: drawn, points, text: said }: PictureMark): Konva.Shape | Konva.Group {
  const width = Math.max(2, size[0] / 240);
  const line = { stroke: COLOUR, strokeWidth: width, lineCap: 'round', lineJoin: 'round' } as const;
  const [x0 = 0, y0 = 0, x1 = x0, y1 = y0] = points;
  if (drawn === 'pen') return new Konva.Line({ ...line, points, tension: 0.3 });
  if (drawn === 'arrow')
    return new Konva.Arrow({ ...line, points, fill: COLOUR, pointerLength: width * 5, pointerWidth: width * 4 });
  if (drawn === 'box')
    return new Konva.Rect({
      ...line,
      ...{ x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) },
    });
  const label = new Konva.Label({ x: x0, y: y0 });
  label.add(new Konva.Tag({ fill: '#ffffff', stroke: COLOUR, strokeWidth: width / 2 }));
  label.add(
    new Konva.Text({ text: said, fontFamily: FONT, fontSize: Math.max(13, size[0] / 48), padding: 4, fill: COLOUR }),
  );
  return label;
}
function draw(all: readonly PictureMark[]): void {
  drawings.destroyChildren();
  for (const mark of all) drawings.add(shapeOf(mark));
}

function place(): readonly [number, number] {
  const at = stage!.getRelativePointerPosition()!;
  return [at.x, at.y];
}
let begun: PictureMark | undefined;
function begin(): void {
  if (!tool.value || writing.value) return;
  const mark: PictureMark = { tool: tool.value, points: [...place()], text: '' };
  if (tool.value !== 'word') begun = mark;
  else {
    const { x, y } = stage!.getPointerPosition()!;
    text.value = '';
    writing.value = { mark, left: x, top: y };
  }
}
function go(): void {
  if (!begun) return;
  begun = drawnTo(begun, place());
  draw([...marks.value, begun]);
}
function end(): void {
  if (!begun) return;
  if (isSeen(begun)) marks.value = [...marks.value, begun];
  begun = undefined;
  draw(marks.value);
}
function write(): void {
  const mark = { ...writing.value!.mark, text: text.value };
  writing.value = undefined;
  if (isSeen(mark)) marks.value = [...marks.value, mark];
  draw(marks.value);
}
function undo(): void {
  marks.value = marks.value.slice(0, -1);
  draw(marks.value);
}

onMounted(async () => {
  const image = new Image();
  image.src = props.picture;
  await image.decode();
  if (!frame.value) return;
  size = [image.naturalWidth, image.naturalHeight];
  const scale = frame.value.clientWidth / size[0];
  stage = new Konva.Stage({
    container: frame.value,
    ...{ width: size[0] * scale, height: size[1] * scale, scaleX: scale, scaleY: scale },
  });
  const below = new Konva.Layer({ listening: false });
  below.add(new Konva.Image({ image, width: size[0], height: size[1] }));
  stage.add(below, drawings);
  stage.on('pointerdown', begin);
  stage.on('pointermove', go);
  stage.on('pointerup pointerleave', end);
});
onBeforeUnmount(() => stage?.destroy());

defineExpose({
  /** The picture with its marks, in its own size; undefined where nothing was drawn on it. */
  async taken(): Promise<Blob | undefined> {
    if (writing.value) write();
    if (!marks.value.length || !stage) return undefined;
    return (await stage.toBlob({ pixelRatio: size[0] / stage.width(), mimeType: 'image/png' })) as Blob;
  },
});
</script>

<template>
  <div class="marker" data-help="issues/mark-picture">
    <div ref="frame" class="frame" :class="{ drawing: tool }" role="img" aria-label="What the issue is about" />
    <input
      v-if="writing"
      v-model="text"
      class="writing"
      :style="{ left: `${writing.left}px`, top: `${writing.top}px` }"
      aria-label="Words on the picture"
      autofocus
      @keydown.enter.prevent="write"
      @blur="writing && write()"
    />
    <div class="tools" role="group" aria-label="Draw on the picture">
      <button
        v-for="(word, name) in MARK_TOOLS"
        :key="name"
        type="button"
        :aria-pressed="tool === name"
        @click="tool = tool === name ? undefined : name"
      >
        <component :is="ICONS[name]" :size="14" /> {{ word }}
      </button>
      <button type="button" :disabled="!marks.length" @click="undo"><Undo2 :size="14" /> Take back</button>
    </div>
  </div>
</template>

<style scoped>
.marker {
  position: relative;
  margin-bottom: 10px;
}
.frame {
  border: 1px solid var(--hairline);
  background: #ebe8df;
  overflow: hidden;
}
.frame.drawing {
  cursor: crosshair;
  touch-action: none;
}
.writing {
  position: absolute;
  z-index: 1;
  width: 180px;
  font: inherit;
  border: 1px solid var(--needs-you);
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 6px;
}
.tools button {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  min-height: 26px;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: var(--paper);
  color: var(--graphite);
  font-size: 12px;
  cursor: pointer;
}
.tools button[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--sheet);
  color: var(--ink);
}
.tools button:disabled {
  opacity: 0.5;
  cursor: default;
}
</style>
