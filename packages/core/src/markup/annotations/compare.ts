/** What a file that comes back says of markups: which are new, and what was done to ours there. */
import type { MarkupStatus } from '../shapes.ts';
import type { Annotation, Reply } from './annotation.ts';
import { annotationOf, type MarkupToWrite } from './of-markup.ts';
import type { PagePlace } from './page-space.ts';

export type { PagePlace };
export type AnnotatedMark = Annotation & { page: number };

export type MarkupPart = 'text' | 'status' | 'shape';

/** A markup that is there, as it is and as it was since it first left. */
export interface KnownMarkup {
  now: MarkupToWrite;
  /** Earlier editions, oldest first. */
  earlier: readonly MarkupToWrite[];
  /** Ids of the answers that are there already. */
  answers: ReadonlySet<string>;
}

export interface ComparedMark {
  mark: AnnotatedMark;
  /** The id of ours that it is; undefined for what is new. */
  known: string | undefined;
  /** `same` says nothing new; `answered`: status or answers alone. */
  found: 'new' | 'changed' | 'answered' | 'conflict' | 'same';
  /** Changed there. */
  parts: MarkupPart[];
  /** Those of them that were changed here too. */
  conflicts: MarkupPart[];
  answers: Reply[];
}

/** Points; programs round places as they like. */
const NEAR = 0.6;

/** `ids`: how a file may call a markup, and which of `known` that is. O(n + e), e editions of known markups. */
export function compareMarks(
  found: readonly AnnotatedMark[],
  known: ReadonlyMap<string, KnownMarkup>,
  ids: ReadonlyMap<string, string>,
  places: readonly PagePlace[],
): ComparedMark[] {
  return found.map((mark) => {
    const id = ids.get(mark.id);
    const ours = id === undefined ? undefined : known.get(id);
    if (!ours) {
      const answers = mark.replies.filter(({ contents }) => contents);
      return { mark, known: undefined, found: 'new', parts: [], conflicts: [], answers };
    }
    const answers = mark.replies.filter((reply) => reply.contents && !ours.answers.has(reply.id));
    const parts = PARTS.filter((part) => changedThere(part, mark, ours, places));
    const conflicts = parts.filter((part) => ours.earlier.some((was) => !sameIn(part, was, ours.now)));
    return { mark, known: id, found: stateOf(parts, conflicts, answers), parts, conflicts, answers };
  });
}

const PARTS: readonly MarkupPart[] = ['text', 'status', 'shape'];

function stateOf(parts: MarkupPart[], conflicts: MarkupPart[], answers: Reply[]): ComparedMark['found'] {
  if (conflicts.length) return 'conflict';
  if (parts.some((part) => part !== 'status')) return 'changed';
  return parts.length || answers.length ? 'answered' : 'same';
}

/** Differs from every edition that they can have had. */
function changedThere(
  part: MarkupPart,
  mark: AnnotatedMark,
  { now, earlier }: KnownMarkup,
  places: readonly PagePlace[],
): boolean {
  return [now, ...earlier].every((edition) => !says(part, mark, edition, places));
}

const even = (text: string): string => text.replace(/\r\n?/g, '\n').trim();

function says(part: MarkupPart, mark: AnnotatedMark, ours: MarkupToWrite, places: readonly PagePlace[]): boolean {
  if (part === 'text') return even(mark.contents) === even(ours.text);
  if (part === 'status') return mark.status === null || mark.status === ours.status;
  const place = places[ours.page - 1];
  if (!place || mark.page !== ours.page) return false;
  const left = annotationOf(ours, place);
  // What stands in an appearance but not in a list of points is placed by its box.
  if (left.points.length && mark.points.length)
    return near(left.points.flat(), mark.points.flat()) && (left.kind !== 'callout' || near(left.box, mark.box));
  return near(left.box, mark.box);
}

const near = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((value, i) => Math.abs(value - b[i]!) <= NEAR);

function sameIn(part: MarkupPart, a: MarkupToWrite, b: MarkupToWrite): boolean {
  if (part === 'shape') return JSON.stringify(a.shape) === JSON.stringify(b.shape) && a.page === b.page;
  return a[part] === b[part];
}

/** The status that a file gives to a mark which is new. */
export const statusOfNew = ({ status }: Annotation): MarkupStatus => status ?? 'note';
