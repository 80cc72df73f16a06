import { expect, it } from 'vitest';
import { decodeText } from './decode-text.ts';

const words = 'Höhe;Œuvre;10 €';
it('reads UTF-8 with and without a mark, both orders of UTF-16, and the Windows code page', () => {
  expect(decodeText(Buffer.from(words))).toMatchObject({ text: words, encoding: 'utf-8' });
  expect(decodeText(Buffer.from(`\ufeff${words}`)).text).toBe(words);
  const utf16 = Buffer.from(`\ufeff${words}`, 'utf16le');
  expect(decodeText(utf16)).toMatchObject({ text: words, encoding: 'utf-16le' });
  expect(decodeText(Buffer.from(utf16).swap16()).text).toBe(words);
  expect(decodeText(Buffer.from('H\xf6he \x80', 'latin1'))).toEqual({ text: 'Höhe €', encoding: 'windows-1252' });
});

it('refuses what is no text', () => {
  expect(() => decodeText(Buffer.from('PK\u0003\u0004\u0000\u0000'))).toThrow(
    expect.objectContaining({ code: 'not-text' }),
  );
});
