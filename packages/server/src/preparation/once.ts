/** Work on one file that somebody waits for, in a process of its own: whoever sent the file, it harms nobody else. */
import fs from 'node:fs/promises';
import path from 'node:path';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import type { PreparationTask } from './messages.ts';
import { PreparationRunner } from './runner.ts';

/** The bytes of the one product of a task; refuses with what the task says of the file. `code`: of that refusal. */
export async function prepareOnce(
  { config, store }: Platform,
  sha256: string,
  task: Omit<PreparationTask, 'path' | 'output'>,
  code: string,
): Promise<Buffer> {
  const runner = new PreparationRunner(config.preparation);
  try {
    return await runner.withOutput(async (output) => {
      const answer = await store.withFile(sha256, (file) =>
        runner.run({ ...task, path: file, output }, () => undefined),
      );
      if (answer.state !== 'ready') throw refused(code, `${answer.note} Nothing was changed.`);
      return fs.readFile(path.join(output, answer.products[0]!));
    });
  } finally {
    runner.end();
  }
}
