import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cleanFileName, splitFileName } from './file-name.ts';

it('keeps the last part of a path and drops what cannot be seen', () => {
  expect(cleanFileName('../../etc/passwd')).toBe('passwd');
  expect(cleanFileName('C:\\temp\\plan.pdf')).toBe('plan.pdf');
  expect(cleanFileName('plan\u202Efdp.exe')).toBe('planfdp.exe');
  expect(cleanFileName('\u0000\u200b.htaccess')).toBe('htaccess');
  expect(cleanFileName('///')).toBe('unnamed');
});

it('brings two spellings of the same letter together', () => {
  expect(cleanFileName('Ru\u0308ckbau.pdf')).toBe(cleanFileName('R\u00fcckbau.pdf'));
});

it('never yields a path, an invisible character, an empty or an endless name', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (raw) => {
      const name = cleanFileName(raw);
      // eslint-disable-next-line no-control-regex
      expect(name).not.toMatch(/[/\\\u0000-\u001f\u200b-\u200f\u202a-\u202e]/);
      expect(name.length).toBeGreaterThan(0);
      expect(name.length).toBeLessThanOrEqual(200);
      expect(name.startsWith('.')).toBe(false);
    }),
  );
});

it('splits off the extension only', () => {
  expect(splitFileName('ORP-A.01.ifc')).toEqual({ stem: 'ORP-A.01', extension: '.ifc' });
  expect(splitFileName('README')).toEqual({ stem: 'README', extension: '' });
});
