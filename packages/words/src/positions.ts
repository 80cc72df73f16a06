/** Sentences for where models lie. */
import type { PositionFinding } from '@kindred/core/federation/positions';
import type { Placing } from '@kindred/core/scene/placing';

const metres = (value: unknown): string => `${Number(value).toLocaleString('en')} m`;
const UNITS: Record<string, string> = {
  '1000': 'a thousand times too small: metres were taken for millimetres',
  '0.001': 'a thousand times too large: millimetres were taken for metres',
};

export function sayPosition({ code, values }: PositionFinding): string {
  switch (code) {
    case 'empty':
      return 'It has no elements with a shape.';
    case 'wrong-unit': {
      const said =
        UNITS[String(values.factor)] ?? `in another unit: its numbers fit when multiplied by ${String(values.factor)}`;
      return `It seems to be ${said}. Export it again in its right unit.`;
    }
    case 'survey-coordinates':
      return 'It was drawn in coordinates of the map, the others count from the origin of the project.';
    case 'far':
      return `It lies ${metres(values.metres)} away from the others: it counts from another origin. Export it from the one of the project.`;
    case 'turned':
      return `It seems to be turned: by ${String(values.degrees)}° about the origin it would lie with the others.`;
    case 'mirrored':
      return `It seems to be mirrored along its ${String(values.axis)} axis. Export it again.`;
    case 'other-survey':
      return `Its map conversion is another one than that of most models: ${metres(values.metres)} and ${Math.round(Number(values.degrees) * 1000) / 1000}° away.`;
    case 'no-survey':
      return 'It says nothing of the map; most others do.';
    case 'needs-no-placing':
      return 'Since a newer version it lies right as it was delivered: its placing puts it wrong.';
  }
}

/** `turned by −23°, shifted by 348,600 / 5,912,400 / 0 m`. */
export function sayPlacing({ turn, shift }: Placing): string {
  const numbers = shift.map((value) => (Math.round(value * 1000) / 1000).toLocaleString('en'));
  return `turned by ${Math.round(turn * 1000) / 1000}°, shifted by ${numbers.join(' / ')} m`;
}
