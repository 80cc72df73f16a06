/** What of a damaged STEP file can still be read, and what is said of the rest. */
import type { StepFile } from './step-reader.ts';

const BLANK = 0x20;
const NEWLINE = 0x0a;
const END = new TextEncoder().encode('\nENDSEC;\nEND-ISO-10303-21;\n');

/** The file's own bytes; where something in it is broken, a copy that leaves it out and ends as a file should. */
export function readablePart({ bytes, damage, cutOffAt }: StepFile): Uint8Array {
  if (!damage.length && cutOffAt < 0) return bytes;
  const length = cutOffAt < 0 ? bytes.length : cutOffAt;
  const copy = new Uint8Array(cutOffAt < 0 ? length : length + END.length);
  copy.set(bytes.subarray(0, length));
  for (let i = 0; i < damage.length; i += 2) copy.fill(BLANK, damage[i], damage[i + 1]);
  if (cutOffAt >= 0) copy.set(END, length);
  return copy;
}

export interface Damage {
  /** Statements that were left out. */
  statements: number;
  /** Lines of the file on which the first of them begin, counted from 1. */
  lines: number[];
  cutOff: boolean;
}

const MOST_LINES = 5;

export function describeDamage({ bytes, damage, cutOffAt }: StepFile): Damage {
  const lines: number[] = [];
  let line = 1;
  let at = 0;
  for (let i = 0; i < damage.length && lines.length < MOST_LINES; i += 2) {
    for (; at < damage[i]!; at++) if (bytes[at] === NEWLINE) line++;
    lines.push(line);
  }
  return { statements: damage.length / 2, lines, cutOff: cutOffAt >= 0 };
}
