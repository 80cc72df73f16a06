import { parseArgs } from 'node:util';
import { ApiClient } from './api-client.ts';
import { UsageError } from './problem.ts';

const TEXTS = [
  'server',
  'project',
  'folder',
  'status',
  'revision',
  'title',
  'classification',
  'description',
  'settle',
  'every',
  'xfdf',
  'out',
  'overlay',
  'tolerance-mm',
  'clearance-mm',
  'to',
  'with',
] as const;

/** Options and the other words of a command. */
export function readOptions(args: string[]) {
  try {
    return parseArgs({
      args,
      allowPositionals: true,
      options: {
        ...Object.fromEntries(TEXTS.map((name) => [name, { type: 'string' as const }])),
        lenient: { type: 'boolean' },
        once: { type: 'boolean' },
        flatten: { type: 'boolean' },
      },
    }) as {
      values: Partial<Record<(typeof TEXTS)[number], string>> & {
        lenient?: boolean;
        once?: boolean;
        flatten?: boolean;
      };
      positionals: string[];
    };
  } catch (error) {
    throw new UsageError('An option is not known', (error as Error).message);
  }
}

/** The API at `--server`, with the token of the environment. */
export function clientOf({ server = 'http://127.0.0.1:8420' }: { server?: string }): ApiClient {
  const token = process.env.KS_TOKEN;
  if (!token)
    throw new UsageError(
      'No token',
      'Create a personal token in the application (Me, my mail, my tokens) and put it into KS_TOKEN.',
    );
  return new ApiClient(server.replace(/\/$/, ''), token);
}

export const required = (value: string | undefined, option: string): string => {
  if (!value) throw new UsageError(`--${option} is missing`, `Say which ${option} with --${option}.`);
  return value;
};
