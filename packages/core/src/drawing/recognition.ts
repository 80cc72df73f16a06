/** Words of a sheet that is a picture, or whose letters are drawn as outlines: read by a recogniser, made into runs like those of a file. */
import type { PageText } from './title-block.ts';
import type { SheetVectors, VectorText } from './vectors/sheet-vectors.ts';

/** Whether words of a sheet are recognised from its picture: no need, still to be done, done, or not possible. */
export const RECOGNITIONS = ['none', 'waiting', 'recognised', 'failed'] as const;
export type Recognition = (typeof RECOGNITIONS)[number];

/** A word as it was recognised, in pixels of the picture, y down. */
export interface RecognisedWord {
  text: string;
  /** 0 to 100. */
  confidence: number;
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Below that a recogniser takes lines of the drawing for letters. */
const LEAST_CONFIDENCE = 60;
/** Capital letters are so much of the height of their font. */
const CAPITALS = 0.72;
/** Words of one run stand closer than so many heights. */
const GAP = 1.1;
const FEW_LETTERS = 3;
const MANY_LINES = 20;

/** Something is drawn, but nobody can read it from the file. */
export function hasUnreadWords({
  texts,
  pictures,
  starts,
}: Pick<SheetVectors, 'texts' | 'pictures' | 'starts'>): boolean {
  const letters = texts.reduce((sum, { text }) => sum + (text.match(/[\p{L}\p{N}]/gu)?.length ?? 0), 0);
  return letters < FEW_LETTERS && (pictures.length > 0 || starts.length > MANY_LINES);
}

/** `scale`: pixels a point. Words that stand beside each other on one base line become one run. */
export function recognisedTexts(words: readonly RecognisedWord[], scale: number): VectorText[] {
  const sure = words
    .filter(({ text, confidence }) => confidence >= LEAST_CONFIDENCE && /[\p{L}\p{N}]/u.test(text))
    .sort((a, b) => a.x0 - b.x0);
  const runs: RecognisedWord[][] = [];
  let open: RecognisedWord[][] = [];
  for (const word of sure) {
    open = open.filter((one) => reaches(one.at(-1)!) >= word.x0);
    const run = open.find((one) => continues(one.at(-1)!, word));
    if (run) run.push(word);
    else {
      const begun = [word];
      open.push(begun);
      runs.push(begun);
    }
  }
  return runs.map((run) => {
    const [first, last] = [run[0]!, run.at(-1)!];
    const height = Math.max(...run.map(({ y0, y1 }) => y1 - y0));
    // Few letters go below the base line: most words of a run end on it.
    const base = run.map(({ y1 }) => y1).sort((a, b) => a - b)[Math.floor((run.length - 1) / 2)]!;
    return {
      text: run.map(({ text }) => text).join(' '),
      x: first.x0 / scale,
      y: base / scale,
      width: (last.x1 - first.x0) / scale,
      size: height / CAPITALS / scale,
      angle: 0,
    };
  });
}

/** No word that goes on after this one begins beyond; letters of one run are at most three times as high as others. */
const reaches = ({ x1, y0, y1 }: RecognisedWord): number => x1 + 3 * GAP * (y1 - y0);

function continues(left: RecognisedWord, right: RecognisedWord): boolean {
  const height = Math.max(left.y1 - left.y0, right.y1 - right.y0);
  const gap = right.x0 - left.x1;
  const shared = Math.min(left.y1, right.y1) - Math.max(left.y0, right.y0);
  return (
    gap > -0.3 * height &&
    right.x0 <= reaches(left) &&
    gap < GAP * height &&
    shared > 0.5 * Math.min(left.y1 - left.y0, right.y1 - right.y0)
  );
}

/** For whoever reads title blocks: upright runs, origin lower left. */
export const pageTextOf = (texts: readonly VectorText[], [width, height]: readonly [number, number]): PageText => ({
  width,
  height,
  runs: texts.map(({ text, x, y, width: along, size }) => ({ text, x, y: height - y, width: along, size })),
});
