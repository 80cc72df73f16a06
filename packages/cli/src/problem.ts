import { ApiProblem, Unreachable } from './api-client.ts';
import { CodedError } from '@kindred/core/platform/coded-error';
import { StepError } from '@kindred/core/scene/step-reader';
import { fileError } from '@kindred/words/files';

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
    return { code: 'not-an-ifc-file', title: 'Not a whole IFC file', detail: fileError(error) };
  if (error instanceof CodedError)
    return { code: error.code, title: 'The file could not be used', detail: fileError(error) };
  if (error instanceof ApiProblem) {
    const { code, title, detail, fields = [] } = error.problem;
    const said = fields.map(({ path, message }) => `${path} ${message}`).join('; ');
    return { code, title, detail: said ? `${detail} ${said}` : detail };
  }
  if (error instanceof Unreachable) return { code: 'unreachable', title: 'No answer', detail: error.message };
  const message = error instanceof Error ? error.message : String(error);
  const missing = (error as NodeJS.ErrnoException).code === 'ENOENT';
  if (missing) return { code: 'no-such-file', title: 'No such file', detail: message };
  return { code: 'unreadable', title: 'The file could not be read', detail: message.split('\n')[0]! };
}
