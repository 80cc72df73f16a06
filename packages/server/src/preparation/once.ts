/** Work on files that somebody waits for, in a process of its own: whoever sent a file, it harms nobody else. */
import fs from 'node:fs/promises';
import path from 'node:path';
import { refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { withModels, type KeptModel } from './kept-models.ts';
import type { ModelQuestion, PreparationTask } from './messages.ts';
import { PreparationRunner } from './runner.ts';

/** `beside`: the hash of another file that it takes. */
type Task = Omit<PreparationTask, 'path' | 'output'>;

/** The bytes of the one product of a task; refuses with what the task says of the file. `code`: of that refusal. */
export type Prepare = (sha256: string, task: Task, code: string) => Promise<Buffer>;

/** What is found in prepared models, read from JSON; refuses as `Prepare` does. */
export type Ask = <T>(
  models: readonly KeptModel[],
  question: Omit<ModelQuestion, 'models'>,
  code: string,
) => Promise<T>;

export interface OpenPreparation {
  prepare: Prepare;
  ask: Ask;
  /** All products of a task, as files of a folder that is gone afterwards; refuses as `Prepare` does. */
  unpack<T>(
    sha256: string,
    task: Task,
    code: string,
    use: (folder: string, products: string[]) => Promise<T>,
  ): Promise<T>;
  end(): void;
  /** Ends what runs, which has neither been done nor failed then. */
  interrupt(): void;
}

/** For files one after another: its process takes a moment to start. `end` it. */
export function openPreparation({ config, store }: Platform): OpenPreparation {
  const runner = new PreparationRunner(config.preparation);
  const productsOf = async (task: PreparationTask, code: string): Promise<string[]> => {
    const answer = await runner.run(task, () => undefined);
    if (answer.state !== 'ready') throw refused(code, `${answer.note} Nothing was changed.`);
    return answer.products;
  };
  const productOf = async (output: string, task: PreparationTask, code: string): Promise<Buffer> =>
    fs.readFile(path.join(output, (await productsOf(task, code))[0]!));
  return {
    ask: (models, question, code) =>
      runner.withOutput((output) =>
        withModels(store, models, async (files) => {
          const { path: file } = files[0]!.elements;
          const task = { kind: 'model' as const, path: file, output, question: { ...question, models: files } };
          return JSON.parse((await productOf(output, task, code)).toString()) as never;
        }),
      ),
    prepare: (sha256, task, code) =>
      runner.withOutput(async (output) => {
        const run = (file: string, beside?: string) =>
          productOf(output, { ...task, path: file, output, ...(beside && { beside }) }, code);
        return store.withFile(sha256, (file) =>
          task.beside ? store.withFile(task.beside, (other) => run(file, other)) : run(file),
        );
      }),
    unpack: (sha256, task, code, use) =>
      runner.withOutput((output) =>
        store.withFile(sha256, async (file) => use(output, await productsOf({ ...task, path: file, output }, code))),
      ),
    end: () => runner.end(),
    interrupt: () => runner.interrupt(),
  };
}

export async function prepareOnce(platform: Platform, ...asked: Parameters<Prepare>): Promise<Buffer> {
  const { prepare, end } = openPreparation(platform);
  try {
    return await prepare(...asked);
  } finally {
    end();
  }
}
