import type { Fate } from '@kindred/core/markup/fate';
import type { MarkupKind } from '@kindred/core/markup/shapes';

/** What people call the kinds of markups. */
export const KIND_WORDS: Record<MarkupKind, string> = {
  line: 'Line',
  arrow: 'Arrow',
  dimension: 'Length',
  rectangle: 'Box',
  ellipse: 'Ellipse',
  cloud: 'Revision cloud',
  polygon: 'Outline',
  polyline: 'Path',
  freehand: 'Pen',
  highlighter: 'Highlighter',
  area: 'Area',
  angle: 'Angle',
  count: 'Count',
  callout: 'Callout',
  text: 'Text',
  stamp: 'Stamp',
  photo: 'Photo',
  note: 'Note',
};

/** What became of what a markup points at; nothing is said where it is the same. */
export const FATE_WORDS: Record<Fate, string> = {
  same: '',
  moved: 'moved along with what it points at',
  changed: 'what it points at was changed',
  gone: 'what it points at is gone',
};
