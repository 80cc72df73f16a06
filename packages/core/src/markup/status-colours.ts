import type { MarkupStatus } from './shapes.ts';

/** A status decides the colour of a markup, on the screen and in files; never without its sign or word. */
export const STATUS_COLOURS: Record<MarkupStatus, string> = {
  note: '#3F6188',
  ask: '#8F5E0B',
  act: '#B4502D',
  settled: '#14706A',
  declined: '#57646A',
};
