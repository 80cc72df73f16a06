import { beforeEach, expect, it } from 'vitest';
import type { Arrival } from './arrival.ts';
import { keepWritten, writtenOf } from './desk-memory.ts';

const arrival = (uploadId: string, state: Arrival['state'], title = ''): Arrival =>
  ({ uploadId, state, title, folderId: 'f', code: uploadId, status: 'S0', revision: 'P01' }) as Arrival;
beforeEach(() => localStorage.clear());

it('what was written of files that have arrived is there again; of others there is nothing to keep', () => {
  keepWritten('p', [
    arrival('u1', 'arrived', 'Ground floor'),
    arrival('', 'arriving', 'Lost'),
    arrival('u3', 'refused'),
  ]);
  expect(writtenOf('p')('u1')).toMatchObject({ title: 'Ground floor', folderId: 'f', code: 'u1' });
  expect(writtenOf('p')('u3')).toBeUndefined();
  expect(writtenOf('q')('u1')).toBeUndefined();
});

it('what was delivered meanwhile is forgotten with the next time', () => {
  keepWritten('p', [arrival('u1', 'arrived')]);
  keepWritten('p', [arrival('u2', 'arrived')]);
  expect(writtenOf('p')('u1')).toBeUndefined();
  expect(writtenOf('p')('u2')).toBeDefined();
});

it('of very many the first are kept: a browser has no room for all', () => {
  const many = Array.from({ length: 2500 }, (_, i) => arrival(`u${i}`, 'arrived'));
  keepWritten('p', many);
  expect(writtenOf('p')('u1999')).toBeDefined();
  expect(writtenOf('p')('u2000')).toBeUndefined();
});
