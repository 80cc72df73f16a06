import fs from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';

/** The file is there whole, or as it was before. */
export async function writeWhole(target: string, content: string | Uint8Array | Readable): Promise<void> {
  const beside = path.join(path.dirname(target), `.${path.basename(target)}.${process.pid}.tmp`);
  try {
    await fs.writeFile(beside, content);
    await fs.rename(beside, target);
  } catch (error) {
    await fs.rm(beside, { force: true });
    throw error;
  }
}
