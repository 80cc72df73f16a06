import fc from 'fast-check';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openZip, ZIP_LIMITS } from './read-zip.ts';
import { zipAsTheyCome } from './write-zip.ts';

let folder: string;
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'archive-'));
});
afterAll(() => fs.rm(folder, { recursive: true }));

const zipOf = (files: Readonly<Record<string, Uint8Array>>): Promise<Buffer> =>
  buffer(
    zipAsTheyCome(
      (async function* () {
        for (const [name, content] of Object.entries(files)) yield { name, content };
      })(),
    ),
  );
let number = 0;
async function opened(bytes: Uint8Array, limits = ZIP_LIMITS) {
  const file = path.join(folder, `${number++}.zip`);
  await fs.writeFile(file, bytes);
  return openZip(file, limits);
}
const hello = { 'a/b.txt': new TextEncoder().encode('hello'), 'ü.txt': new TextEncoder().encode('there') };

it('reads what was packed, entry by entry', async () => {
  const contents = fc.dictionary(fc.stringMatching(/^[a-z]{1,8}$/), fc.uint8Array({ maxLength: 300 }), {
    maxKeys: 6,
    noNullPrototype: true,
  });
  await fc.assert(
    fc.asyncProperty(contents, async (files) => {
      const zip = await opened(await zipOf(files));
      expect([...zip.names].sort()).toEqual(Object.keys(files).sort());
      for (const [name, content] of Object.entries(files))
        expect(new Uint8Array(await zip.read(name))).toEqual(content);
      zip.close();
    }),
    { numRuns: 20 },
  );
  const zip = await opened(await zipOf(hello));
  expect(zip.names).toEqual(['a/b.txt', 'ü.txt']);
  zip.close();
});

it('leaves out names that lead out of it', async () => {
  const bytes = await zipOf({ 'xx/evil.txt': hello['a/b.txt'], 'good.txt': hello['a/b.txt'] });
  for (let at = bytes.indexOf('xx/evil'); at >= 0; at = bytes.indexOf('xx/evil')) bytes.write('..', at);
  const zip = await opened(bytes);
  expect([zip.names, zip.unsafe]).toEqual([['good.txt'], ['../evil.txt']]);
  zip.close();
});

it('refuses what is damaged, no archive, cut off, or far too large', async () => {
  const bytes = await zipOf(hello);
  const central = bytes.indexOf(Buffer.from('PK\u0001\u0002', 'latin1'));
  const damaged = Buffer.from(bytes);
  damaged[central + 16]! ^= 1;
  const zip = await opened(damaged);
  await expect(zip.read('a/b.txt')).rejects.toMatchObject({ code: 'zip-damaged' });
  expect(Buffer.from(await zip.read('ü.txt')).toString()).toBe('there');
  await expect(zip.read('no.txt')).rejects.toMatchObject({ code: 'zip-damaged' });
  zip.close();
  await expect(opened(new TextEncoder().encode('no archive at all, but long enough to be one'))).rejects.toMatchObject({
    code: 'no-zip',
  });
  await expect(opened(bytes.subarray(0, bytes.length - 30))).rejects.toMatchObject({ code: 'no-zip' });
  await expect(opened(bytes, { ...ZIP_LIMITS, entries: 1 })).rejects.toMatchObject({ code: 'zip-too-large' });
  const bomb = await opened(await zipOf({ zeros: new Uint8Array(8e6) }));
  await expect(bomb.read('zeros')).rejects.toMatchObject({ code: 'zip-too-large' });
  bomb.close();
  await expect(openZip(path.join(folder, 'not-there.zip'))).rejects.toMatchObject({ code: 'ENOENT' });
});
