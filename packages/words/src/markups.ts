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
