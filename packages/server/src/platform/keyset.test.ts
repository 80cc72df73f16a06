import { pgTable, text, timestamp, uuid, integer, PgDialect } from 'drizzle-orm/pg-core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ProblemError } from './errors.ts';
import { keyset, page, positionOf } from './keyset.ts';

const things = pgTable('things', {
  id: uuid('id').primaryKey(),
  title: text('title').notNull(),
  size: integer('size').notNull(),
  at: timestamp('at', { mode: 'date' }).notNull(),
});
const ID = '6c844d34-9062-4ed8-8044-1f0f4e0a8a11';
const cursor = (value: unknown, id = ID): string => page([1, 2], 1, () => [value, id]).next!;

describe('a cursor', () => {
  it('gives back the position that it stands for, as the column compares it', () => {
    const at = new Date('2026-11-25T10:00:00.123Z');
    expect(positionOf(things.at, things.id, cursor(at))).toEqual({ value: at, tie: ID });
    expect(positionOf(things.size, things.id, cursor(7))).toEqual({ value: 7, tie: ID });
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (title) => {
        expect(positionOf(things.title, things.id, cursor(title))).toEqual({ value: title, tie: ID });
      }),
    );
  });

  it('of our own making is refused in words, whatever it is', () => {
    const refusal = (after: string): unknown => {
      try {
        return positionOf(things.title, things.id, after);
      } catch (error) {
        return error;
      }
    };
    for (const wrong of ['', 'x', 'e30', cursor('a', 'no id'), cursor('a', "'; drop table things; --")])
      expect(refusal(wrong)).toMatchObject({ status: 422, code: 'bad-cursor' });
    fc.assert(
      fc.property(fc.string(), (after) => {
        const answer = refusal(after);
        expect(answer instanceof ProblemError || typeof (answer as { tie: string }).tie === 'string').toBe(true);
      }),
    );
  });
});

describe('a page', () => {
  it('has a next one only where there is more', () => {
    const rows = ['a', 'b', 'c'];
    expect(page(rows, 3, (row) => [row, ID])).toEqual({ items: rows, next: null });
    expect(page(rows, 2, (row) => [row, ID])).toMatchObject({ items: ['a', 'b'], next: expect.any(String) });
    expect(page([], 2, () => ['', ID])).toEqual({ items: [], next: null });
  });

  it('after a position begins beyond it, in the order of the list', () => {
    const dialect = new PgDialect();
    const where = (descending: boolean, column = things.title as never) =>
      dialect.sqlToQuery(keyset(column, things.id, descending, { value: 'a', tie: ID }).where!).sql;
    expect(where(false)).toBe('("things"."title", "things"."id") > ($1, $2)');
    expect(where(true)).toBe('("things"."title", "things"."id") < ($1, $2)');
    expect(where(true, things.id as never)).toBe('"things"."id" < $1');
    expect(keyset(things.title, things.id, false, undefined).where).toBeUndefined();
    expect(keyset(things.title, things.id, false, undefined).orderBy).toHaveLength(2);
  });
});
