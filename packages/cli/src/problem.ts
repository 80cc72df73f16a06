import { Refusal, Unreachable } from './api-client.ts';
import { StepError } from '@kindred/core/scene/step-reader';

export interface Problem {
  code: string;
  title: string;
  detail: string;
}

export class UsageError extends Error {
  constructor(
    message: string,
    readonly detail: string,
  ) {
    super(message);
  }
}

/** One line that says what happened; never a stack. */
export function problemOf(error: unknown): Problem {
  if (error instanceof UsageError) return { code: 'usage', title: error.message, detail: error.detail };
  if (error instanceof StepError)
    return { code: 'not-an-ifc-file', title: 'Not a whole IFC file', detail: error.message };
  if (error instanceof Refusal) {
    const fields = error.fields.map(({ path, message }) => `${path} ${message}`).join('; ');
    return { code: error.code, title: error.title, detail: fields ? `${error.detail} ${fields}` : error.detail };
  }
  if (error instanceof Unreachable) return { code: 'unreachable', title: 'No answer', detail: error.message };
  const message = error instanceof Error ? error.message : String(error);
  const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
  if (missing) return { code: 'no-such-file', title: 'No such file', detail: message };
  return { code: 'unreadable', title: 'The file could not be read', detail: message.split('\n')[0]! };
}
