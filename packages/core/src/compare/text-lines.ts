/** Words of a sheet as lines that do not depend on how a program wrote them: by letters, words or lines. */
import type { VectorText } from '../drawing/vectors/sheet-vectors.ts';
import { boundsOf, type Box } from './bounds.ts';
import type { Similarity } from './similarity.ts';

/** Points of the page as displayed, y down; x, y at the left end of the base line; angle in radians with the clock. */
export interface TextLine extends VectorText {
  /** What it says without blanks: programs differ in where they leave room. */
  key: string;
}

/** Runs are one line where the gap between them is smaller than this part of their size; a blank where it is larger than the other one. */
const [GAP, BLANK] = [0.6, 0.2];

/** O(n log n). */
export function textLinesOf(texts: readonly VectorText[]): TextLine[] {
  const placed = texts
    .filter(({ text }) => text.trim())
    .map((text) => {
      const [cos, sin] = [Math.cos(text.angle), Math.sin(text.angle)];
      return {
        text,
        turn: Math.round(text.angle * 50),
        row: -sin * text.x + cos * text.y,
        along: cos * text.x + sin * text.y,
      };
    });
  placed.sort((a, b) => a.turn - b.turn || a.row - b.row);
  const lines: VectorText[] = [];
  let k = 0;
  while (k < placed.length) {
    const first = placed[k]!;
    let j = k + 1;
    while (j < placed.length && placed[j]!.turn === first.turn && placed[j]!.row - first.row < 0.2 * first.text.size)
      j++;
    const row = placed.slice(k, j).sort((a, b) => a.along - b.along);
    let end = -Infinity;
    for (const { text, along } of row) {
      const last = lines.at(-1);
      const gap = along - end;
      if (
        last &&
        end > -Infinity &&
        Math.abs(gap) < GAP * text.size &&
        Math.abs(last.size - text.size) < 0.15 * text.size
      ) {
        last.text += (gap > BLANK * text.size ? ' ' : '') + text.text;
        last.width = last.width + gap + text.width;
      } else lines.push({ ...text });
      end = along + text.width;
    }
    k = j;
  }
  return withRaised(lines).map((line) => {
    const text = withoutLigatures(line.text.normalize('NFC')).replace(/\s+/g, ' ').trim();
    return { ...line, text, key: text.replaceAll(' ', '') };
  });
}

/** A small “2” above the base line right behind “m” is the sign “²” that another program writes. */
function withRaised(lines: VectorText[]): VectorText[] {
  const raised = lines.filter(({ text }) => /^[0-9]{1,2}$/.test(text));
  if (!raised.length) return lines;
  const side = 12;
  const squares = new Map<string, VectorText[]>();
  for (const line of raised) {
    const key = `${Math.round(line.x / side)} ${Math.round(line.y / side)}`;
    squares.set(key, [...(squares.get(key) ?? []), line]);
  }
  const taken = new Set<VectorText>();
  for (const line of lines) {
    const [cos, sin] = [Math.cos(line.angle), Math.sin(line.angle)];
    const [endX, endY] = [line.x + cos * line.width, line.y + sin * line.width];
    const near = [-1, 0, 1].flatMap((dx) =>
      [-1, 0, 1].flatMap((dy) => squares.get(`${Math.round(endX / side) + dx} ${Math.round(endY / side) + dy}`) ?? []),
    );
    const found = near.find((one) => {
      const [along, up] = [
        cos * (one.x - endX) + sin * (one.y - endY),
        sin * (one.x - endX) - cos * (one.y - endY),
      ].map((far) => far / line.size) as [number, number];
      const small = one.size < 0.85 * line.size && Math.abs(Math.sin(one.angle - line.angle)) < 0.05;
      return small && one !== line && !taken.has(one) && Math.abs(along) < 0.3 && up > 0.15 && up < 0.7;
    });
    if (!found || taken.has(line)) continue;
    taken.add(found);
    line.text += found.text.replace(/[0-9]/g, (digit) => RAISED[Number(digit)]!);
    line.width += found.width;
  }
  return lines.filter((line) => !taken.has(line));
}
const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** “ﬁ” as one letter in one program is two in another one. */
const withoutLigatures = (text: string): string => text.replace(/[\ufb00-\ufb06]/g, (both) => both.normalize('NFKC'));

export const mappedText = (text: TextLine, similarity: Similarity): TextLine => {
  const [x, y] = similarity.map(text.x, text.y);
  const { scale } = similarity;
  return { ...text, x, y, width: text.width * scale, size: text.size * scale, angle: text.angle + similarity.angle };
};

export function textBox({ x, y, width, size, angle }: TextLine): Box {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const corners = [
    [0, 0.2 * size],
    [width, 0.2 * size],
    [0, -0.8 * size],
    [width, -0.8 * size],
  ].flatMap(([u, v]) => [x + cos * u! - sin * v!, y + sin * u! + cos * v!]);
  return boundsOf(corners);
}
