import path from 'node:path';

export interface Config {
  port: number;
  host: string;
  databaseUrl: string;
  /** Folder of blobs and unfinished uploads. */
  dataFolder: string;
  /** Folder of the built web application; nothing is served where it is absent. */
  webFolder: string | undefined;
  /** Address that mails link to. */
  publicUrl: string;
  /** Offers one-click sign-in as the people of the demo. */
  demo: boolean;
  /** While the demo is loaded, requests that carry this secret may set the clock. */
  demoClockSecret: string | undefined;
  /** Holds every answer against the contract: for tests and development, where a wrong one shall be found. */
  checkAnswers: boolean;
  role: 'all' | 'web' | 'worker';
  maxUploadBytes: number;
  preparation: { seconds: number; megabytes: number; processes: number };
  logLevel: string;
}

export function configFrom(env: NodeJS.ProcessEnv): Config {
  const port = Number(env.PORT ?? 8420);
  const databaseUrl = env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set: start with “npm start”, or name a PostgreSQL database.');
  return {
    port,
    host: env.HOST ?? '127.0.0.1',
    databaseUrl,
    dataFolder: path.resolve(env.KS_DATA ?? '.data'),
    webFolder: env.KS_WEB,
    publicUrl: env.KS_PUBLIC_URL ?? `http://127.0.0.1:${port}`,
    demo: env.KS_DEMO === '1',
    demoClockSecret: env.KS_DEMO_CLOCK || undefined,
    checkAnswers: env.KS_CHECK_ANSWERS === '1',
    role: (env.KS_ROLE as Config['role'] | undefined) ?? 'all',
    maxUploadBytes: Number(env.KS_MAX_UPLOAD ?? 8 * 2 ** 30),
    preparation: {
      seconds: Number(env.KS_PREPARATION_SECONDS ?? 600),
      megabytes: Number(env.KS_PREPARATION_MB ?? 4096),
      processes: Number(env.KS_PREPARATION_PROCESSES ?? 2),
    },
    logLevel: env.KS_LOG ?? 'info',
  };
}
