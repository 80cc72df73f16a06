/** A markup as PDF and XFDF (ISO 19444-1) have it. Places in points of the page's own space: origin lower left, its rotation undone. */
import { MARKUP_STATUSES, type MarkupStatus } from '../shapes.ts';

export const ANNOTATION_KINDS = [
  'rectangle',
  'ellipse',
  'line',
  'arrow',
  'dimension',
  'polyline',
  'polygon',
  'cloud',
  'freehand',
  'highlighter',
  'text',
  'callout',
  'stamp',
  'note',
] as const;
export type AnnotationKind = (typeof ANNOTATION_KINDS)[number];

/** Left, lower, right, upper. */
export type PageBox = [x0: number, y0: number, x1: number, y1: number];

/** What somebody answered. */
export interface Reply {
  id: string;
  author: string;
  /** RFC 3339, without an offset where the file names none; null where it names no moment. */
  modified: string | null;
  contents: string;
  /** The status that the answer gives to what it answers. */
  status: MarkupStatus | null;
}

export interface Annotation {
  id: string;
  kind: AnnotationKind;
  author: string;
  created: string | null;
  modified: string | null;
  contents: string;
  status: MarkupStatus | null;
  /** `#rrggbb`. */
  colour: string | null;
  box: PageBox;
  /** In the order of time. */
  replies: Reply[];
  /** Corners and ends in order, x and y in turn; of several strokes each its own. Empty where the box says all. */
  points: number[][];
  /** Of lines, points. */
  width: number;
  /** 0 to 1. */
  opacity: number;
  /** Inside, `#rrggbb`. */
  fill: string | null;
}

export interface AnnotatedPage {
  /** From 1. */
  page: number;
  annotations: Annotation[];
}

/** Review states of PDF, and what they are here; others say nothing. */
const STATES: Record<string, MarkupStatus | null> = { Completed: 'settled', Rejected: 'declined', None: null };
const statusOfState = (state: string): MarkupStatus | null => STATES[state] ?? null;
export const stateOfStatus = (status: MarkupStatus): string | undefined =>
  Object.keys(STATES).find((state) => STATES[state] === status);

/** An annotation as a file has it, before answers hang under what they are about. */
export interface Loose extends Omit<Annotation, 'replies' | 'kind' | 'status'> {
  /** Unlike any other of its file. */
  key: string;
  /** From 1. */
  page: number;
  /** Null for what is only an answer. */
  kind: AnnotationKind | null;
  /** Key of what it answers; empty for none. */
  answers: string;
  /** Review state that it gives; empty for none. */
  state: string;
  /** What it is about, as programs write it; our own status stands there. */
  subject: string;
}

const isStatus = (text: string): text is MarkupStatus => (MARKUP_STATUSES as readonly string[]).includes(text);

/** Hangs answers, and answers to answers, under what they are about; a state that comes later wins. O(n log n). */
export function hangReplies(loose: readonly Loose[]): (Annotation & { page: number })[] {
  const byKey = new Map(loose.map((one) => [one.key, one]));
  const roots = new Map<string, Annotation & { page: number }>();
  for (const one of loose) {
    const { key, answers, state: _state, subject, kind, ...rest } = one;
    void _state;
    if (kind && !byKey.has(answers))
      roots.set(key, { ...rest, kind, status: isStatus(subject) ? subject : null, replies: [] });
  }
  const stated = new Set<Reply>();
  for (const one of loose) {
    const root = roots.get(rootOf(one, byKey));
    if (!root || roots.has(one.key)) continue;
    const { id, author, modified, contents, state } = one;
    const reply: Reply = { id, author, modified, contents, status: state ? statusOfState(state) : null };
    if (state) stated.add(reply);
    root.replies.push(reply);
  }
  for (const root of roots.values()) {
    root.replies.sort((a, b) => compareMoments(a.modified, b.modified));
    const last = root.replies.findLast((reply) => stated.has(reply));
    if (last) root.status = last.status;
  }
  return [...roots.values()];
}

/** Follows answers upwards; a ring of answers has no root. */
function rootOf(one: Loose, byKey: ReadonlyMap<string, Loose>): string {
  const seen = new Set<string>();
  let at = one;
  while (byKey.has(at.answers) && !seen.has(at.key)) {
    seen.add(at.key);
    at = byKey.get(at.answers)!;
  }
  return at.key;
}

/** Moments with and without an offset; what has none comes first. */
function compareMoments(a: string | null, b: string | null): number {
  const time = (moment: string | null): number =>
    moment ? Date.parse(/Z$|[+-]\d\d:\d\d$/.test(moment) ? moment : `${moment}Z`) : 0;
  return time(a) - time(b);
}
