import type { MARKED_COPIES } from '@kindred/contract/markup/markup';

export type MarkedCopyKind = (typeof MARKED_COPIES)[number];

/** In what files markups leave. */
export const COPY_WORDS: Record<MarkedCopyKind, string> = {
  pdf: 'PDF with the published markups as annotations',
  'flattened pdf': 'PDF with the published markups drawn in',
  xfdf: 'The published markups alone (XFDF)',
  xlsx: 'A list with pictures and sums (XLSX)',
};
