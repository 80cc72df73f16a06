/** Names by which markups of a file are known again. Many programs give none: what they read as says which they are then. */
import type { AnnotatedMark } from '@kindred/core/markup/annotations/compare';
import { createHash } from 'node:crypto';

/** Of what has no name of its own the reader makes one from its place in the file, which the next file uses for something else. */
const MADE_UP = /^object-/;
const LONGEST = 200;

const digest = (parts: unknown): string =>
  createHash('sha256').update(JSON.stringify(parts)).digest('hex').slice(0, 32);

/** Each mark and answer with a name that is the same in every file that holds it, and unlike all others of its file. */
export function withNames(marks: readonly AnnotatedMark[]): AnnotatedMark[] {
  const given = new Map<string, number>();
  const unlike = (id: string): string => {
    const times = (given.get(id) ?? 0) + 1;
    given.set(id, times);
    return times === 1 ? id : `${id}/${times}`;
  };
  const nameOf = (id: string, parts: unknown): string =>
    MADE_UP.test(id) || id.length > LONGEST ? `unnamed-${digest(parts)}` : id;
  return marks.map((mark) => {
    const { id, page, kind, author, created, contents, box, points } = mark;
    const name = unlike(nameOf(id, [page, kind, author, created, contents, box, points]));
    const replies = mark.replies.map((reply) => ({
      ...reply,
      id: nameOf(reply.id, [reply.author, reply.modified, reply.contents, reply.status]),
    }));
    return { ...mark, id: name, replies };
  });
}
