import path from 'node:path';
import type { Patience } from './incoming.ts';
import type { CostlyPerMinute } from './rate-limit.ts';
import type { S3Settings } from './storage/s3-store.ts';

export interface Config {
  port: number;
  host: string;
  databaseUrl: string;
  /** Folder of blobs and unfinished uploads, and of files that live for a moment. */
  dataFolder: string;
  /** Where blobs are kept: in the folder, or in an object store. */
  s3: S3Settings | undefined;
  /** Folder of the built web application; nothing is served where it is absent. */
  webFolder: string | undefined;
  /** Address that mails link to. */
  publicUrl: string;
  /** Where other nodes of the installation reach this one; the address it listens on when absent. */
  nodeUrl: string | undefined;
  /** How many proxies stand before this node: the address of a caller is taken from what they say. */
  trustedProxies: number;
  /** Offers one-click sign-in as the people of the demo. */
  demo: boolean;
  /** While the demo is loaded, requests that carry this secret may set the clock. */
  demoClockSecret: string | undefined;
  /** The demo is being loaded: the installation is not ready yet. */
  loading: boolean;
  /** Holds every answer against the contract: for tests and development, where a wrong one shall be noticed. */
  checkAnswers: boolean;
  role: 'all' | 'web' | 'worker';
  maxUploadBytes: number;
  preparation: { seconds: number; megabytes: number; processes: number };
  costlyPerMinute: CostlyPerMinute;
  /** The OpenID Connect provider that people may sign in with, besides a password. */
  provider: { issuer: string; clientId: string; clientSecret: string; label: string } | undefined;
  /** Bytes that one project, and the whole installation, may hold; 0: as much as there is room for. */
  quota: { project: number; installation: number };
  /** How long what was removed from a register can be restored. */
  binDays: number;
  /** How many projects one person may begin, and people add, within 24 hours. */
  perDay: { projects: number; people: number };
  /** Who may begin projects: everybody with an account, or administrators of the installation. */
  createProjects: 'everybody' | 'administrators';
  /** JSON requests that one person may send each node a second, five times as many at once; 0: no limit. */
  requestsPerSecond: number;
  patience: Patience;
  logLevel: string;
}

/** Throws an error with a sentence for each setting that is wrong. */
export function configFrom(env: NodeJS.ProcessEnv): Config {
  const wrong: string[] = [];
  const count = (name: string, otherwise: number, least = 0): number => {
    const value = Number(env[name] ?? otherwise);
    if (!Number.isInteger(value) || value < least)
      wrong.push(`${name} must be a whole number, ${least} or more, not “${env[name]}”.`);
    return value;
  };
  const address = <T extends string | undefined>(name: string, otherwise: T): string | T => {
    const value = env[name];
    if (value && !/^https?:\/\/[^\s/]+/.test(value))
      wrong.push(`${name} is an address that begins with http:// or https://, not “${value}”.`);
    return value?.replace(/\/$/, '') || otherwise;
  };
  const oneOf = <T extends string>(name: string, values: readonly [T, ...T[]]): T => {
    const value = (env[name] ?? values[0]) as T;
    if (!values.includes(value)) wrong.push(`${name} is one of ${values.join(', ')}, not “${value}”.`);
    return value;
  };
  const needed = (name: string, why: string): string => {
    if (!env[name]) wrong.push(`${name} is not set: ${why}`);
    return env[name] ?? '';
  };
  const s3From = (): S3Settings => {
    const why = 'storage in an object store needs it.';
    return {
      endpoint: needed('KS_S3_ENDPOINT', why),
      bucket: needed('KS_S3_BUCKET', why),
      key: needed('KS_S3_KEY', why),
      secret: needed('KS_S3_SECRET', why),
      region: env.KS_S3_REGION ?? 'us-east-1',
    };
  };
  const providerFrom = () => {
    const issuer = address('KS_OIDC_ISSUER', undefined);
    if (!issuer) return undefined;
    const why = 'signing in by OpenID Connect needs it.';
    return {
      issuer,
      clientId: needed('KS_OIDC_CLIENT_ID', why),
      clientSecret: needed('KS_OIDC_CLIENT_SECRET', why),
      label: env.KS_OIDC_LABEL ?? 'the account of your organisation',
    };
  };
  const port = count('PORT', 8420);
  if (port > 65_535) wrong.push(`PORT must be below 65536, not “${env.PORT}”.`);
  const config: Config = {
    port,
    host: env.HOST ?? '127.0.0.1',
    databaseUrl: needed('DATABASE_URL', 'start with “npm start”, or name a PostgreSQL database.'),
    dataFolder: path.resolve(env.KS_DATA ?? '.data'),
    s3: oneOf('KS_STORAGE', ['folder', 's3']) === 's3' ? s3From() : undefined,
    webFolder: env.KS_WEB,
    publicUrl: address('KS_PUBLIC_URL', `http://127.0.0.1:${port}`),
    nodeUrl: address('KS_NODE_URL', undefined),
    trustedProxies: count('KS_TRUSTED_PROXIES', 0),
    demo: env.KS_DEMO === '1',
    demoClockSecret: env.KS_DEMO_CLOCK || undefined,
    loading: env.KS_LOADING === '1',
    checkAnswers: env.KS_CHECK_ANSWERS === '1',
    role: oneOf('KS_ROLE', ['all', 'web', 'worker']),
    maxUploadBytes: count('KS_MAX_UPLOAD', 8 * 2 ** 30, 1),
    preparation: {
      seconds: count('KS_PREPARATION_SECONDS', 600, 1),
      megabytes: count('KS_PREPARATION_MB', 4096, 64),
      processes: count('KS_PREPARATION_PROCESSES', 2, 1),
    },
    costlyPerMinute: {
      person: count('KS_COSTLY_PER_PERSON', 120, 1),
      project: count('KS_COSTLY_PER_PROJECT', 600, 1),
    },
    provider: providerFrom(),
    quota: {
      project: count('KS_PROJECT_QUOTA', 0),
      installation: count('KS_INSTALLATION_QUOTA', 0),
    },
    binDays: count('KS_BIN_DAYS', 30, 1),
    perDay: { projects: count('KS_PROJECTS_PER_DAY', 50), people: count('KS_PEOPLE_PER_DAY', 2000) },
    createProjects: oneOf('KS_CREATE_PROJECTS', ['everybody', 'administrators']),
    requestsPerSecond: count('KS_REQUESTS_PER_SECOND', 40),
    patience: {
      seconds: count('KS_PATIENCE_SECONDS', 30, 1),
      bytesPerSecond: count('KS_PATIENCE_BYTES', 1000, 0),
    },
    logLevel: oneOf('KS_LOG', ['info', 'trace', 'debug', 'warn', 'error', 'fatal', 'silent']),
  };
  if (wrong.length) throw new Error(wrong.join('\n'));
  return config;
}
