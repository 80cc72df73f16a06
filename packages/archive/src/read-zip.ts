/** An archive, read entry by entry: nothing is unpacked to a disk, and nothing is believed that it says of itself. */
import { CodedError } from '@kindred/core/platform/coded-error';
import { buffer } from 'node:stream/consumers';
import { crc32 } from 'node:zlib';
import { open, type Entry, type ZipFile } from 'yauzl';

/** How many entries it may have, bytes of one, and of all that are read. */
export interface ZipLimits {
  entries: number;
  entryBytes: number;
  allBytes: number;
}
export const ZIP_LIMITS: ZipLimits = { entries: 200_000, entryBytes: 200e6, allBytes: 20e9 };
/** So many times smaller no honest file is packed; small ones may be. */
const [MOST_PACKED, SMALL] = [1000, 1e6];

export interface OpenZip {
  /** Of files, with `/` between folders; what leads out of the archive is left out. */
  names: readonly string[];
  /** Names that were left out. */
  unsafe: readonly string[];
  /** Throws `zip-damaged` where the content is not what the archive says, `zip-too-large` beyond a limit. */
  read(name: string): Promise<Uint8Array>;
  close(): void;
}

/** Throws `no-zip`, `zip-encrypted`, `zip-too-large`. Of two entries of one name the last counts, as for whoever unpacks them. */
export async function openZip(path: string, limits = ZIP_LIMITS): Promise<OpenZip> {
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false, decodeStrings: false }, (error, opened) =>
      opened ? resolve(opened) : reject(isSystem(error) ? error! : new CodedError('no-zip')),
    ),
  );
  const entries = new Map<string, Entry>();
  const unsafe: string[] = [];
  try {
    if (zip.entryCount > limits.entries) throw new CodedError('zip-too-large', { entries: zip.entryCount });
    for await (const entry of entriesOf(zip)) {
      const name = nameOf(entry);
      if (name.endsWith('/')) continue;
      if (isUnsafe(name)) unsafe.push(name);
      else entries.set(name, entry);
    }
  } catch (error) {
    zip.close();
    throw error;
  }
  let total = 0;
  return {
    names: [...entries.keys()],
    unsafe,
    async read(name) {
      const entry = entries.get(name);
      if (!entry) throw new CodedError('zip-damaged', { name });
      if (entry.generalPurposeBitFlag & 1) throw new CodedError('zip-encrypted', { name });
      const { uncompressedSize: size, compressedSize: packed } = entry;
      total += size;
      if (size > limits.entryBytes || total > limits.allBytes || (size > SMALL && size > packed * MOST_PACKED))
        throw new CodedError('zip-too-large', { name });
      const bytes = await contentOf(zip, entry, name);
      if (crc32(bytes) !== entry.crc32) throw new CodedError('zip-damaged', { name });
      return bytes;
    },
    close: () => zip.close(),
  };
}

/** Of the disk, not of what is on it. */
const isSystem = (error: Error | null): boolean => typeof (error as NodeJS.ErrnoException | null)?.syscall === 'string';

async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const done = (run: () => void) => () => {
        zip.off('entry', found);
        zip.off('end', ended);
        zip.off('error', failed);
        run();
      };
      const found = (one: Entry): void => done(() => resolve(one))();
      const ended = (): void => done(() => resolve(null))();
      const failed = (): void => done(() => reject(new CodedError('no-zip')))();
      zip.once('entry', found);
      zip.once('end', ended);
      zip.once('error', failed);
      zip.readEntry();
    });
    if (!entry) return;
    yield entry;
  }
}

/** Nobody says in which letters it is written: UTF-8 where it can be that. */
function nameOf({ fileName }: Entry): string {
  const bytes = fileName as unknown as Buffer;
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes).replaceAll('\\', '/');
  } catch {
    return bytes.toString('latin1').replaceAll('\\', '/');
  }
}
const isUnsafe = (name: string): boolean => /^(?:\/|[a-z]:)/i.test(name) || name.split('/').includes('..');

async function contentOf(zip: ZipFile, entry: Entry, name: string): Promise<Buffer> {
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) =>
    zip.openReadStream(entry, (error, opened) =>
      opened ? resolve(opened) : reject(isSystem(error) ? error! : new CodedError('zip-damaged', { name })),
    ),
  );
  try {
    return await buffer(stream);
  } catch (error) {
    if (isSystem(error as Error)) throw error;
    throw new CodedError('zip-damaged', { name });
  }
}
