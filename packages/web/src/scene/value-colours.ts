/** Colours for values: names get colours that one tells apart, also who confuses red and green; numbers run from pale to dark. */
import type { Value } from '@kindred/core/scene/element-index';
import { rowOf, slotOf } from './engine/element-numbers.ts';
import type { Group } from './facts/facts-worker.ts';

/** After Okabe and Ito, “Color Universal Design” (2008), without the orange of what is selected; lighter ones for a second round. */
const NAMES = [0x0072b2, 0x8c5a3c, 0x009e73, 0xcc79a7, 0x56b4e9, 0xd55e00, 0xb3a100, 0x7a5195];
const SECOND = [0x7fb8d8, 0xc9a58e, 0x7fcebb, 0xe5bcd3, 0xaad9f4, 0xeaae7f, 0xd9d07f, 0xbca8ca];
/** What says nothing, and what comes after the last colour. */
const [NOTHING, FURTHER] = [0xd8d5cc, 0x9a9a94];
const [PALE, DARK] = [
  [0xe4, 0xee, 0xd8],
  [0x12, 0x4e, 0x66],
];
/** Steps into which numbers are gathered. */
const STEPS = 6;

export interface ColouredValue {
  label: string;
  colour: number;
  count: number;
  elements: readonly number[];
}

export function colourValues(groups: readonly Group[], numeric: boolean, unit = ''): ColouredValue[] {
  const said = groups.filter(({ value }) => value !== null);
  const rest = groups.filter(({ value }) => value === null);
  const coloured = numeric && said.length > STEPS ? inSteps(said, unit) : inNames(said, unit);
  return [...coloured, ...rest.map(({ elements }) => entry('not said', NOTHING, [elements]))];
}

function inNames(groups: readonly Group[], unit: string): ColouredValue[] {
  const colours = [...NAMES, ...SECOND];
  const named = groups.slice(0, colours.length);
  const further = groups.slice(colours.length);
  return [
    ...named.map(({ value, elements }, i) => entry(labelOf(value!, unit), colours[i]!, [elements])),
    ...(further.length
      ? [
          entry(
            `${further.length} further ${further.length === 1 ? 'value' : 'values'}`,
            FURTHER,
            further.map(({ elements }) => elements),
          ),
        ]
      : []),
  ];
}

function inSteps(groups: readonly Group[], unit: string): ColouredValue[] {
  const sorted = [...groups].sort((a, b) => Number(a.value) - Number(b.value));
  const [low, high] = [Number(sorted[0]!.value), Number(sorted.at(-1)!.value)];
  const limit = (step: number): number => low + ((high - low) * step) / STEPS;
  return Array.from({ length: STEPS }, (_, step) => {
    const within = sorted.filter(({ value }) => {
      const at = Math.min(STEPS - 1, Math.floor(((Number(value) - low) / (high - low)) * STEPS));
      return at === step;
    });
    const part = step / (STEPS - 1);
    const mixed = PALE!.map((value, i) => Math.round(value + (DARK![i]! - value) * part));
    return entry(
      `${labelOf(limit(step), unit)} to ${labelOf(limit(step + 1), unit)}`,
      (mixed[0]! << 16) | (mixed[1]! << 8) | mixed[2]!,
      within.map(({ elements }) => elements),
    );
  }).filter(({ count }) => count);
}

const entry = (label: string, colour: number, parts: readonly Float64Array[]): ColouredValue => {
  const elements = parts.flatMap((part) => [...part]);
  return { label, colour, count: elements.length, elements };
};
export const labelOf = (value: Value, unit = ''): string => {
  const said =
    typeof value === 'number'
      ? String(Math.round(value * 1e3) / 1e3)
      : typeof value === 'boolean'
        ? value
          ? 'yes'
          : 'no'
        : value;
  return unit ? `${said} ${unit}` : said;
};

/** By slot a colour for each row, −1 for none. */
export function coloursBySlot(
  values: readonly ColouredValue[],
  sizes: ReadonlyMap<number, number>,
): Map<number, Int32Array> {
  const colours = new Map([...sizes].map(([slot, size]) => [slot, new Int32Array(size).fill(-1)]));
  for (const { colour, elements } of values)
    for (const element of elements) {
      const rows = colours.get(slotOf(element));
      if (rows) rows[rowOf(element)] = colour;
    }
  return colours;
}

export const cssColour = (colour: number): string => `#${colour.toString(16).padStart(6, '0')}`;
