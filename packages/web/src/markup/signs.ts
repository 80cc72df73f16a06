import type { MarkupStatus } from '@kindred/core/markup/shapes';
import { STATUS_COLOURS } from '@kindred/core/markup/status-colours';

/** A status decides colour and symbol; the colour is never alone. */
export const MARKUP_LOOK: Record<MarkupStatus, { colour: string; symbol: string; sign: string }> = {
  note: { colour: STATUS_COLOURS.note, symbol: 'i', sign: 'sign info' },
  ask: { colour: STATUS_COLOURS.ask, symbol: '?', sign: 'sign caution' },
  act: { colour: STATUS_COLOURS.act, symbol: '!', sign: 'sign needs-you full' },
  settled: { colour: STATUS_COLOURS.settled, symbol: '=', sign: 'sign action full' },
  declined: { colour: STATUS_COLOURS.declined, symbol: '–', sign: 'sign quiet' },
};
