import { createHash } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { afterAll, describe, expect, it } from 'vitest';
import { GrowingHashes } from './growing-hashes.ts';
import { HashingStore } from './hashing-store.ts';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-hashes-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const bytes = (size: number): Buffer =>
  Buffer.from(Uint8Array.from({ length: size }, (_, i) => (i * 7 + (i >> 8)) % 251));
const file = (name: string, content: Uint8Array): string => {
  const target = path.join(folder, name);
  fs.writeFileSync(target, content);
  return target;
};

describe('hashes of growing files', () => {
  it('are those of what is written, however it grew', async () => {
    const hashes = new GrowingHashes();
    const content = bytes(5_000_000);
    const target = file('grows', content);
    for (const upTo of [1, 1_000_000, 3_000_001]) hashes.advance(target, upTo);
    expect(await hashes.finish(target, content.length)).toBe(sha256(content));
    // Forgotten now: asked again, it is read from the start.
    expect(await hashes.finish(target, content.length)).toBe(sha256(content));
  });

  it('do not mix the files of many', async () => {
    const hashes = new GrowingHashes();
    const contents = Array.from({ length: 40 }, (_, i) => bytes(20_000 + i));
    const targets = contents.map((content, i) => file(`many-${i}`, content));
    for (const upTo of [5_000, 20_000]) for (const target of targets) hashes.advance(target, upTo);
    const found = await Promise.all(targets.map((target, i) => hashes.finish(target, contents[i]!.length)));
    expect(found).toEqual(contents.map(sha256));
  });

  it('are not known of a file that is not there, or is shorter than said', async () => {
    const hashes = new GrowingHashes();
    hashes.advance(path.join(folder, 'absent'), 10);
    expect(await hashes.finish(path.join(folder, 'absent'), 10)).toBeUndefined();
    expect(await hashes.finish(file('short', bytes(10)), 11)).toBeUndefined();
    expect(await hashes.finish(file('whole', bytes(10)), 10)).toBe(sha256(bytes(10)));
  });
});

describe('the store of files on their way in', () => {
  const store = new HashingStore({ directory: folder });
  const parts = (content: Buffer, size: number): Buffer[] =>
    Array.from({ length: Math.ceil(content.length / size) }, (_, i) => content.subarray(i * size, (i + 1) * size));

  it('writes what comes in parts of any size, goes on where it ended, and knows the hash', async () => {
    const content = bytes(3_500_000);
    file('upload', new Uint8Array());
    expect(await store.write(Readable.from(parts(content.subarray(0, 2_200_000), 65_536)), 'upload', 0)).toBe(
      2_200_000,
    );
    expect(await store.write(Readable.from(parts(content.subarray(2_200_000), 999)), 'upload', 2_200_000)).toBe(
      content.length,
    );
    expect(fs.readFileSync(path.join(folder, 'upload')).equals(content)).toBe(true);
    expect(await store.takeHash('upload', content.length)).toBe(sha256(content));
  });

  it('keeps what arrived before a stream broke off', async () => {
    const content = bytes(1_300_000);
    file('broken', new Uint8Array());
    const breaking = Readable.from(
      (function* () {
        yield* parts(content, 65_536);
        throw new Error('cut off');
      })(),
    );
    await expect(store.write(breaking, 'broken', 0)).rejects.toMatchObject({ status_code: 500 });
    expect(fs.readFileSync(path.join(folder, 'broken')).equals(content)).toBe(true);
    expect(await store.write(Readable.from([Buffer.from('end')]), 'broken', content.length)).toBe(content.length + 3);
    expect(await store.takeHash('broken', content.length + 3)).toBe(
      sha256(Buffer.concat([content, Buffer.from('end')])),
    );
  });

  it('goes on with a file that another process began', async () => {
    const content = bytes(400_000);
    file('begun', content.subarray(0, 150_000));
    await store.write(Readable.from([content.subarray(150_000)]), 'begun', 150_000);
    expect(await store.takeHash('begun', content.length)).toBe(sha256(content));
  });
});
