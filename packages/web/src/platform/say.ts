import { CodedError } from '@kindred/core/platform/coded-error';
import { fileError } from '@kindred/words/files';
import { ElNotification } from 'element-plus';
import { h } from 'vue';
import { ApiProblem } from './api.ts';

/** Where no buttons are: those stand on the right, and on a phone the stages at the bottom. */
const PLACE = { position: 'bottom-left', offset: 64 } as const;

/** Tells what went wrong, in the words of whoever refused it. */
export function sayProblem(error: unknown): void {
  const [title, message] =
    error instanceof ApiProblem
      ? [error.problem.title, error.problem.detail]
      : error instanceof CodedError
        ? ['Not possible like this', fileError(error)]
        : ['Something went wrong', (error as Error).message];
  ElNotification({ title, message, type: 'warning', duration: 9000, ...PLACE });
}

export function sayDone(message: string): void {
  ElNotification({ message, type: 'success', duration: 3500, ...PLACE });
}

/** Runs something that may be refused; answers whether it was done. */
export async function attempt(run: () => Promise<unknown>): Promise<boolean> {
  try {
    await run();
    return true;
  } catch (error) {
    sayProblem(error);
    return false;
  }
}

/** What somebody answers to a question of ElMessageBox; undefined when they close it without an answer. */
export async function answered<T>(asked: Promise<T>): Promise<T | undefined> {
  try {
    return await asked;
  } catch (error) {
    if (error !== 'cancel' && error !== 'close') throw error;
  }
}

/** Says that something was done, with a way back. */
export function sayUndoable(message: string, undo: () => void): void {
  const notice = ElNotification({
    message: h('span', [
      `${message} `,
      h(
        'button',
        {
          class: 'button-link',
          onClick: () => {
            notice.close();
            undo();
          },
        },
        'Undo',
      ),
      h('kbd', ' Ctrl Z'),
    ]),
    type: 'success',
    duration: 6000,
    ...PLACE,
  });
}
