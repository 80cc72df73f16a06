/** Revisions as a project writes them: series of numbers behind a prefix, or of letters. Data, which a project may change. */
export interface RevisionSeries {
  /** `P` in P01; empty for plain numbers. */
  prefix: string;
  kind: 'numbers' | 'letters';
  /** Digits of a number; letters have none. */
  digits: number;
  /** Whether work in progress counts below it: P01.1, P01.2. */
  minor: boolean;
  meaning: string;
}
export interface RevisionScheme {
  name: string;
  series: RevisionSeries[];
}

export const STARTER_REVISIONS: RevisionScheme = {
  name: 'Preliminary, then contractual',
  series: [
    { prefix: 'P', kind: 'numbers', digits: 2, minor: true, meaning: 'Preliminary' },
    { prefix: 'C', kind: 'numbers', digits: 2, minor: false, meaning: 'Contractual' },
  ],
};

const write = ({ prefix, kind, digits }: RevisionSeries, n: number): string =>
  prefix + (kind === 'letters' ? letters(n) : String(n).padStart(digits, '0'));

/** 1 → A, 26 → Z, 27 → AA. */
function letters(n: number): string {
  let text = '';
  for (let rest = n; rest > 0; rest = Math.floor((rest - 1) / 26))
    text = String.fromCharCode(65 + ((rest - 1) % 26)) + text;
  return text;
}
const numberOfLetters = (text: string): number =>
  [...text].reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0);

export interface RevisionRead {
  series: RevisionSeries;
  number: number;
  minor: number | null;
}

/** The place of a revision in a scheme; undefined when it belongs to none of its series. */
export function readRevision(scheme: RevisionScheme, revision: string): RevisionRead | undefined {
  for (const series of scheme.series) {
    if (!revision.startsWith(series.prefix)) continue;
    const [whole = '', minor, ...rest] = revision.slice(series.prefix.length).split('.');
    if (rest.length || (minor !== undefined && !(series.minor && /^[1-9][0-9]*$/.test(minor)))) continue;
    const right = series.kind === 'letters' ? /^[A-Z]{1,3}$/ : /^[0-9]{1,9}$/;
    if (!right.test(whole)) continue;
    const number = series.kind === 'letters' ? numberOfLetters(whole) : Number(whole);
    if (series.prefix + whole !== write(series, number)) continue;
    return { series, number, minor: minor === undefined ? null : Number(minor) };
  }
  return undefined;
}

export const firstRevision = (scheme: RevisionScheme): string => (scheme.series[0] ? write(scheme.series[0], 1) : '');

/**
 * The revision that usually follows: P01 → P02, C09 → C10, P01.1 → P01.2, A → B; the first of the scheme after none.
 * What belongs to no series comes back unchanged, so that a person decides.
 */
export function nextRevision(scheme: RevisionScheme, revision: string | undefined): string {
  if (!revision) return firstRevision(scheme);
  const read = readRevision(scheme, revision);
  if (!read) return revision;
  const { series, number, minor } = read;
  return minor === null ? write(series, number + 1) : `${write(series, number)}.${minor + 1}`;
}
