import { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { ZipFile } from 'yazl';

/** Files as they come, one at a time in memory; an error of whoever makes them becomes that of the stream. */
export function zipAsTheyCome(files: AsyncIterable<{ name: string; content: Uint8Array }>): Readable {
  const zip = new ZipFile();
  const out = zip.outputStream as Readable;
  const closed = new AbortController();
  out.once('close', () => closed.abort());
  void (async () => {
    for await (const { name, content } of files) {
      const part = Readable.from([Buffer.from(content.buffer, content.byteOffset, content.byteLength)]);
      zip.addReadStream(part, name);
      await finished(part, { signal: closed.signal });
    }
    zip.end();
  })().catch((error: Error) => out.destroy(error));
  return out;
}
