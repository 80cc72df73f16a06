/** Words on a sheet. */
import type { VectorText } from './vectors/sheet-vectors.ts';

export interface FoundText {
  text: string;
  /** Left, top, width, height of the box around the run, points. */
  box: [x: number, y: number, width: number, height: number];
}

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Runs that have the words, without regard to case and accents, from the top down. */
export function findText(texts: readonly VectorText[], words: string): FoundText[] {
  const wanted = plain(words).trim().replace(/\s+/g, ' ');
  if (!wanted) return [];
  return texts
    .filter(({ text }) => plain(text).replace(/\s+/g, ' ').includes(wanted))
    .map((run): FoundText => ({ text: run.text.trim(), box: boxAround(run) }))
    .sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
}

function boxAround({ x, y, width, size, angle }: VectorText): FoundText['box'] {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const xs: number[] = [];
  const ys: number[] = [];
  for (const [along, up] of [
    [0, -0.25 * size],
    [width, -0.25 * size],
    [0, size],
    [width, size],
  ] as const) {
    xs.push(x + along * cos + up * sin);
    ys.push(y + along * sin - up * cos);
  }
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return [left, top, Math.max(...xs) - left, Math.max(...ys) - top];
}
