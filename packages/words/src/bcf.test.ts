import type { BcfNoteCode } from '@kindred/core/bcf/bcf-file';
import { expect, it } from 'vitest';
import { bcfNote } from './bcf.ts';

const said = (code: BcfNoteCode, values: Record<string, string | number> = {}, topic: string | null = 'T1'): string =>
  bcfNote({ code, topic, values });

it('names what was noticed in a BCF file, and the topic', () => {
  expect(said('unreadable-topic', { name: 'a/markup.bcf', why: 'bcf-xml' })).toBe(
    'Topic T1: “a/markup.bcf” was left out: its XML cannot be read.',
  );
  expect(said('new-guid', { what: 'comment', value: 'c1' })).toBe(
    'Topic T1: “c1” is no GUID; this comment was given one.',
  );
  expect(said('not-in-version', { field: 'FieldOfView', value: 80 })).toBe(
    'Topic T1: FieldOfView (80) cannot be said in the version that was written.',
  );
  expect(said('unsafe-name', { name: '../x' }, null)).toBe('“../x” leads out of the archive and was left out.');
  expect(said('unknown-version', { version: '2.0' }, null)).toContain('“2.0”');
});
