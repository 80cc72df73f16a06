/** Title blocks that somebody corrected once: where their values stand, and the words around them by which the block is known again. */
import type { VectorText } from './vectors/sheet-vectors.ts';
import { TITLE_BLOCK_FIELDS, type TitleBlock } from './title-block.ts';

type Field = keyof TitleBlock;
/** From the lower right corner of the page, where blocks hang: points to the left and up. */
interface Corner {
  left: number;
  up: number;
}
export interface TaughtLayout {
  anchors: (Corner & { text: string })[];
  /** Where a value begins, how wide it was, how high its letters. */
  fields: Partial<Record<Field, Corner & { width: number; size: number }>>;
}
type Size = readonly [width: number, height: number];

/** Fewer words than these around it are no block that could be known again. */
const LEAST_ANCHORS = 3;
const MOST_ANCHORS = 60;
/** So much of the words has to stand where it stood. */
const ALIKE = 0.6;
/** Points that places differ by on sheets of one template. */
const NEAR = 6;

const plain = (text: string): string => text.normalize('NFKC').replace(/\s+/g, ' ').trim().toLowerCase();

/** Runs of one base line that follow each other closely, read as one. O(n log n). */
function linesOf(texts: readonly VectorText[]): VectorText[] {
  const upright = texts.filter(({ angle, text }) => Math.abs(angle) < 0.01 && text.trim());
  const sorted = [...upright].sort((a, b) => a.y - b.y || a.x - b.x);
  const lines: VectorText[] = [];
  for (const run of sorted) {
    const last = lines.at(-1);
    const gap = last && run.x - (last.x + last.width);
    if (last && Math.abs(last.y - run.y) < 0.5 && gap! > -run.size && gap! < run.size) {
      last.text += `${gap! > run.size * 0.15 ? ' ' : ''}${run.text}`;
      last.width = run.x + run.width - last.x;
    } else lines.push({ ...run });
  }
  return lines;
}

const cornerOf = ({ x, y }: VectorText, [width, height]: Size): Corner => ({ left: width - x, up: height - y });

/** Undefined where none of the values stands on the page, or too little around it. */
export function learnLayout(texts: readonly VectorText[], size: Size, block: TitleBlock): TaughtLayout | undefined {
  const lines = linesOf(texts);
  const fields: TaughtLayout['fields'] = {};
  const values = new Set<VectorText>();
  for (const field of TITLE_BLOCK_FIELDS) {
    const wanted = plain(block[field]);
    if (!wanted) continue;
    const [line] = lines
      .filter(({ text }) => plain(text) === wanted)
      .sort((a, b) => distance(cornerOf(a, size)) - distance(cornerOf(b, size)));
    if (!line) continue;
    values.add(line);
    fields[field] = { ...cornerOf(line, size), width: line.width, size: line.size };
  }
  if (!values.size) return undefined;
  const anchors = lines
    .filter((line) => !values.has(line) && nearOne(line, values))
    .slice(0, MOST_ANCHORS)
    .map((line) => ({ ...cornerOf(line, size), text: plain(line.text) }));
  return anchors.length >= LEAST_ANCHORS ? { anchors, fields } : undefined;
}
const distance = ({ left, up }: Corner): number => Math.hypot(left, up);

/** Within a hand's breadth of a value. */
const AROUND = 220;
const nearOne = (line: VectorText, values: ReadonlySet<VectorText>): boolean =>
  [...values].some(({ x, y }) => Math.abs(line.x - x) < AROUND && Math.abs(line.y - y) < AROUND / 2);

/** What stands in the taught places of the first layout that the page has; a place without words is an empty value. */
export function readByLayout(
  texts: readonly VectorText[],
  size: Size,
  layouts: readonly TaughtLayout[],
): Partial<TitleBlock> | undefined {
  const lines = linesOf(texts);
  const layout = layouts.find((one) => isThere(one, lines, size));
  if (!layout) return undefined;
  return Object.fromEntries(
    Object.entries(layout.fields).map(([field, place]) => [
      field,
      lines.find((line) => standsAt(line, place, size))?.text.trim() ?? '',
    ]),
  );
}

function isThere({ anchors }: TaughtLayout, lines: readonly VectorText[], size: Size): boolean {
  const byText = new Map<string, Corner[]>();
  for (const line of lines) {
    const text = plain(line.text);
    byText.set(text, [...(byText.get(text) ?? []), cornerOf(line, size)]);
  }
  const found = anchors.filter(({ text, left, up }) =>
    byText.get(text)?.some((at) => Math.abs(at.left - left) < NEAR && Math.abs(at.up - up) < NEAR),
  );
  return found.length >= Math.max(LEAST_ANCHORS, ALIKE * anchors.length);
}

/** On the same base line, and in line with what stood there at its left, middle or right. */
function standsAt(line: VectorText, place: Corner & { width: number; size: number }, size: Size): boolean {
  const { left, up } = cornerOf(line, size);
  if (Math.abs(up - place.up) > NEAR / 2 || Math.abs(line.size - place.size) > place.size * 0.3) return false;
  const aside = [
    left - place.left,
    left - line.width / 2 - (place.left - place.width / 2),
    left - line.width - (place.left - place.width),
  ];
  return aside.some((by) => Math.abs(by) < NEAR);
}
