import { health } from '@kindred/contract/platform/health';
import { ApiProblem, call } from './api.ts';

const PAUSE = 5000;

/** Ends as soon as the server can be reached and is ready: asked every few seconds, and when the browser says that it is online. */
export async function connected(): Promise<void> {
  while (!(await answers())) await pause();
}

async function answers(): Promise<boolean> {
  try {
    await call(health);
    return true;
  } catch (error) {
    if (error instanceof ApiProblem) return false;
    throw error;
  }
}

const pause = (): Promise<void> =>
  new Promise((resolve) => {
    const go = (): void => {
      clearTimeout(timer);
      removeEventListener('online', go);
      resolve();
    };
    const timer = setTimeout(go, PAUSE);
    addEventListener('online', go);
  });
