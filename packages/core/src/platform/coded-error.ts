export type Values = Record<string, string | number | readonly string[]>;

/** Why something cannot be done: a code, and what it takes to say it in words. */
export class CodedError extends Error {
  constructor(
    readonly code: string,
    readonly values: Values = {},
  ) {
    super(`${code} ${JSON.stringify(values)}`);
  }
}
