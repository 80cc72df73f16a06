import { MEASURING_KINDS, type MarkupKind } from '@kindred/core/markup/shapes';

/** Says by itself what it is there for: nobody is asked for words when it is drawn. */
export const speaksForItself = (kind: MarkupKind): boolean =>
  MEASURING_KINDS.has(kind) || kind === 'freehand' || kind === 'highlighter' || kind === 'line';
