/** Letters as a draughtsman drew them with one stroke of the pen, on a grid 4 wide and 6 high, y down. */
type Stroke = readonly (readonly [x: number, y: number])[];

/** Digits of a stroke are x and y of its points. */
const LETTERS: Record<string, string> = {
  A: '06 20 46,14 34',
  B: '06 00 30 41 42 33 03,33 44 45 36 06',
  C: '41 30 10 01 05 16 36 45',
  D: '00 06 26 44 42 20 00',
  E: '40 00 06 46,03 33',
  F: '40 00 06,03 33',
  G: '41 30 10 01 05 16 36 45 43 23',
  H: '00 06,40 46,03 43',
  I: '20 26',
  L: '00 06 46',
  M: '06 00 23 40 46',
  N: '06 00 46 40',
  O: '10 01 05 16 36 45 41 30 10',
  P: '06 00 30 41 42 33 03',
  R: '06 00 30 41 42 33 03,23 46',
  S: '41 30 10 01 02 13 33 44 45 36 16 05',
  T: '00 40,20 26',
  U: '00 05 16 36 45 40',
  V: '00 26 40',
  W: '00 16 23 36 40',
  Y: '00 23 40,23 26',
  '-': '13 33',
  ':': '21 22,24 25',
  '0': '10 01 05 16 36 45 41 30 10',
  '1': '11 20 26,16 36',
  '2': '01 10 30 41 42 06 46',
  '4': '36 30 04 44',
  '7': '00 40 16',
  '9': '43 33 13 02 01 10 30 41 43 45 36 16',
};
const ADVANCE = 6;

/** `height`: of the letters; the strokes of a line that begins at the left end of its base line. */
export function letteringOf(text: string, x: number, y: number, height: number): Stroke[] {
  const unit = height / 6;
  return [...text].flatMap((letter, i) =>
    (LETTERS[letter] ?? '')
      .split(',')
      .filter(Boolean)
      .map((stroke) =>
        stroke
          .split(' ')
          .map(([px, py]) => [x + (i * ADVANCE + Number(px)) * unit, y - height + Number(py) * unit] as const),
      ),
  );
}
