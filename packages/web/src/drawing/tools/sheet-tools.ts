/** What can be done on a sheet. */
import type { MarkupKind } from '@kindred/core/markup/shapes';
import {
  ArrowUpRight,
  Box,
  Camera,
  Circle,
  Cloud,
  Flag,
  Hand,
  Hash,
  Highlighter,
  MessageSquare,
  Minus,
  MousePointerClick,
  PenLine,
  Pentagon,
  RectangleHorizontal,
  Ruler,
  RulerDimensionLine,
  Scan,
  SquareDashed,
  SquareDashedBottom,
  Stamp,
  StickyNote,
  TriangleRight,
  Type,
  Waypoints,
} from '@lucide/vue';
import type { Component } from 'vue';
import { angle, boxed, byHand, callout, counting, manyPoints, onePoint, twoPoints, type Sketch } from './sketches.ts';

/** What a sketch has to know of the table, in points of the page. */
export interface Reach {
  /** Closer together two places are one. */
  least(): number;
  /** Width and height of a box that was not dragged. */
  words(): [number, number];
  stamp(): [number, number];
  photo(): [number, number];
}

export interface SheetTool {
  name: string;
  word: string;
  key: string;
  icon: Component;
  group: 'look' | 'mark' | 'measure';
  /** What to do with it, in one line. */
  hint: string;
  /** The kind of thing that it adds; none for those that only look. */
  adds?: 'markup' | 'issues';
  /** Drawn points are caught by the drawing. */
  catches?: boolean;
  sketch?(reach: Reach): Sketch;
}

const dragged = (kind: Extract<MarkupKind, 'line' | 'arrow' | 'rectangle' | 'ellipse' | 'cloud' | 'dimension'>) => ({
  sketch: ({ least }: Reach) => twoPoints(kind, least),
});

/** The first is what one begins with. */
export const SHEET_TOOLS: readonly SheetTool[] = [
  {
    name: 'look',
    word: 'Move',
    key: 'v',
    icon: Hand,
    group: 'look',
    hint: 'Drag to move, turn the wheel to come closer.',
  },
  {
    name: 'choose',
    word: 'Choose',
    key: 's',
    icon: MousePointerClick,
    group: 'look',
    hint: 'Click a markup, or drag a box around several; drag them, or one of their points. Del deletes drafts.',
  },
  {
    name: 'model',
    word: 'Model',
    key: 'z',
    icon: Box,
    group: 'look',
    hint: 'Click something on the plan to see what it is in the model.',
  },
  {
    name: 'cloud',
    word: 'Cloud',
    key: 'c',
    icon: Cloud,
    group: 'mark',
    hint: 'Drag across what has to change.',
    adds: 'markup',
    ...dragged('cloud'),
  },
  {
    name: 'callout',
    word: 'Callout',
    key: 'o',
    icon: MessageSquare,
    group: 'mark',
    hint: 'Drag from what you point at to where the words shall stand.',
    adds: 'markup',
    sketch: ({ least, words }) => callout(least, words),
  },
  {
    name: 'text',
    word: 'Text',
    key: 't',
    icon: Type,
    group: 'mark',
    hint: 'Drag a box for the words, or click.',
    adds: 'markup',
    sketch: ({ least, words }) => boxed('text', least, words),
  },
  {
    name: 'note',
    word: 'Note',
    key: 'n',
    icon: StickyNote,
    group: 'mark',
    hint: 'Click where the note belongs.',
    adds: 'markup',
    sketch: onePoint,
  },
  {
    name: 'rectangle',
    word: 'Box',
    key: 'b',
    icon: RectangleHorizontal,
    group: 'mark',
    hint: 'Drag a box.',
    adds: 'markup',
    ...dragged('rectangle'),
  },
  {
    name: 'ellipse',
    word: 'Ellipse',
    key: 'e',
    icon: Circle,
    group: 'mark',
    hint: 'Drag from corner to corner.',
    adds: 'markup',
    ...dragged('ellipse'),
  },
  {
    name: 'line',
    word: 'Line',
    key: 'l',
    icon: Minus,
    group: 'mark',
    hint: 'Drag, or click both ends.',
    adds: 'markup',
    catches: true,
    ...dragged('line'),
  },
  {
    name: 'arrow',
    word: 'Arrow',
    key: 'a',
    icon: ArrowUpRight,
    group: 'mark',
    hint: 'Drag from the tail to the point.',
    adds: 'markup',
    ...dragged('arrow'),
  },
  {
    name: 'polygon',
    word: 'Outline',
    key: 'g',
    icon: Pentagon,
    group: 'mark',
    hint: 'Click the corners, then the first one again, or Enter.',
    adds: 'markup',
    sketch: ({ least }) => manyPoints('polygon', least),
  },
  {
    name: 'freehand',
    word: 'Pen',
    key: 'p',
    icon: PenLine,
    group: 'mark',
    hint: 'Draw.',
    adds: 'markup',
    sketch: ({ least }) => byHand('freehand', least),
  },
  {
    name: 'highlighter',
    word: 'Highlighter',
    key: 'h',
    icon: Highlighter,
    group: 'mark',
    hint: 'Draw over what shall be seen.',
    adds: 'markup',
    sketch: ({ least }) => byHand('highlighter', least),
  },
  {
    name: 'stamp',
    word: 'Stamp',
    key: 'm',
    icon: Stamp,
    group: 'mark',
    hint: 'Drag a box for the stamp, or click.',
    adds: 'markup',
    sketch: ({ least, stamp }) => boxed('stamp', least, stamp),
  },
  {
    name: 'photo',
    word: 'Photo',
    key: 'x',
    icon: Camera,
    group: 'mark',
    hint: 'Choose or take a photo, then click where it belongs.',
    adds: 'markup',
    sketch: ({ least, photo }) => boxed('photo', least, photo),
  },
  {
    name: 'calibrate',
    word: 'Calibrate',
    key: 'y',
    icon: RulerDimensionLine,
    group: 'measure',
    hint: 'Click both ends of a length that you know; it sets the scale of this sheet for you.',
    catches: true,
    ...dragged('dimension'),
  },
  {
    name: 'region',
    word: 'Region',
    key: 'k',
    icon: Scan,
    group: 'measure',
    hint: 'Drag a box around a part of the sheet that has a scale of its own.',
    ...dragged('rectangle'),
  },
  {
    name: 'dimension',
    word: 'Length',
    key: 'd',
    icon: Ruler,
    group: 'measure',
    hint: 'Click both ends; lines, corners and crossings of the drawing catch the pointer.',
    adds: 'markup',
    catches: true,
    ...dragged('dimension'),
  },
  {
    name: 'polyline',
    word: 'Path',
    key: 'w',
    icon: Waypoints,
    group: 'measure',
    hint: 'Click along the way, then Enter or a double click.',
    adds: 'markup',
    catches: true,
    sketch: ({ least }) => manyPoints('polyline', least),
  },
  {
    name: 'area',
    word: 'Area',
    key: 'f',
    icon: SquareDashed,
    group: 'measure',
    hint: 'Click the corners, then the first one again, or Enter.',
    adds: 'markup',
    catches: true,
    sketch: ({ least }) => manyPoints('area', least),
  },
  {
    name: 'hole',
    word: 'Hole',
    key: 'q',
    icon: SquareDashedBottom,
    group: 'measure',
    hint: 'Choose one area first, then click the corners of what is not part of it.',
    adds: 'markup',
    catches: true,
    sketch: ({ least }) => manyPoints('area', least),
  },
  {
    name: 'angle',
    word: 'Angle',
    key: 'j',
    icon: TriangleRight,
    group: 'measure',
    hint: 'Click a point on one side, the corner, a point on the other side.',
    adds: 'markup',
    catches: true,
    sketch: angle,
  },
  {
    name: 'count',
    word: 'Count',
    key: 'u',
    icon: Hash,
    group: 'measure',
    hint: 'Click each one, then Enter.',
    adds: 'markup',
    sketch: counting,
  },
  {
    name: 'issue',
    word: 'Issue',
    key: 'i',
    icon: Flag,
    group: 'mark',
    hint: 'Click where the issue is.',
    adds: 'issues',
  },
];
