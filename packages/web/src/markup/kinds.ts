import { MEASURING_KINDS, type MarkupKind } from '@kindred/core/markup/shapes';

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
  note: 'Note',
};

/** Says by itself what it is there for: nobody is asked for words when it is drawn. */
export const speaksForItself = (kind: MarkupKind): boolean =>
  MEASURING_KINDS.has(kind) || kind === 'freehand' || kind === 'highlighter' || kind === 'line';
