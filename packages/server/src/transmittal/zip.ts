import { csvLine } from '@kindred/core/platform/csv';
import { splitFileName } from '@kindred/core/naming/file-name';
import type { Transmittal } from '@kindred/contract/transmittal/transmittal';
import type { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import type { BlobStore } from '../platform/storage.ts';

/** The files of a transmittal as a zip, made while it is sent: an index, checksums, then the files under their codes. */
export function zipTransmittal(
  store: BlobStore,
  { files, number, title }: Transmittal,
  onError: (error: Error) => void,
): Readable {
  const zip = new ZipFile();
  zip.on('error', onError);
  const names = uniqueNames(files.map(({ code, fileName }) => code + splitFileName(fileName).extension));
  const rows = files.map((file, i) => [
    file.code,
    file.title,
    file.revision,
    file.status,
    String(file.versionNumber),
    names[i]!,
    String(file.size),
    file.sha256,
  ]);
  const head = ['Code', 'Title', 'Revision', 'Status', 'Version', 'File', 'Bytes', 'SHA-256'];
  const index = [[`Transmittal ${number}`, title], head, ...rows].map(csvLine).join('');
  zip.addBuffer(Buffer.from(`\ufeff${index}`), 'index.csv');
  zip.addBuffer(Buffer.from(files.map(({ sha256 }, i) => `${sha256}  ${names[i]}\n`).join('')), 'SHA256SUMS');
  files.forEach(({ sha256 }, i) => zip.addReadStreamLazy(names[i]!, (give) => give(null, store.read(sha256))));
  zip.end();
  return zip.outputStream as Readable;
}

function uniqueNames(names: string[]): string[] {
  const seen = new Map<string, number>([
    ['index.csv', 1],
    ['sha256sums', 1],
  ]);
  return names.map((name) => {
    const safe = name.replace(/[/\\:*?"<>|]/g, '_');
    const count = (seen.get(safe.toLowerCase()) ?? 0) + 1;
    seen.set(safe.toLowerCase(), count);
    const { stem, extension } = splitFileName(safe);
    return count === 1 ? safe : `${stem} (${count})${extension}`;
  });
}
