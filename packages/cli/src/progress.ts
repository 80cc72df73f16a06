import fs from 'node:fs';
import path from 'node:path';

const WIDTH = 24;

/** A bar on the terminal, of a share from 0 to 1; nothing where the output goes elsewhere. */
export function progressBar(): { show(what: string, share: number): void; end(): void } {
  if (!process.stderr.isTTY) return { show: () => undefined, end: () => undefined };
  return {
    show(what, share) {
      const filled = Math.round(share * WIDTH);
      const bar = `${'#'.repeat(filled)}${'.'.repeat(WIDTH - filled)}`;
      process.stderr.write(`\r[${bar}] ${Math.round(share * 100)} % ${what}\u001b[K`);
    },
    end: () => void process.stderr.write('\r\u001b[K'),
  };
}

/** For files that are sent: bytes that are gone. */
export const fileProgress =
  (bar: ReturnType<typeof progressBar>) =>
  (file: string, sent: number): void =>
    bar.show(path.basename(file), sent / Math.max(1, fs.statSync(file).size));
