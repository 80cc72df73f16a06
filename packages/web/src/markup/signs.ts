import type { MarkupStatus } from '@kindred/core/markup/shapes';

/** A status decides colour and symbol; the colour is never alone. */
export const MARKUP_LOOK: Record<MarkupStatus, { colour: string; symbol: string; sign: string }> = {
  note: { colour: '#3F6188', symbol: 'i', sign: 'sign info' },
  ask: { colour: '#8F5E0B', symbol: '?', sign: 'sign caution' },
  act: { colour: '#B4502D', symbol: '!', sign: 'sign needs-you full' },
  settled: { colour: '#14706A', symbol: '=', sign: 'sign action full' },
  declined: { colour: '#57646A', symbol: '–', sign: 'sign quiet' },
};
