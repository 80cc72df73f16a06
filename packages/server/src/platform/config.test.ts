import { describe, expect, it } from 'vitest';
import { configFrom } from './config.ts';

const base = { DATABASE_URL: 'postgres://here/db' };
const S3 = { KS_STORAGE: 's3', KS_S3_ENDPOINT: 'http://s3', KS_S3_BUCKET: 'b', KS_S3_KEY: 'k', KS_S3_SECRET: 's' };

it('without settings is a folder on loopback', () => {
  expect(configFrom(base)).toMatchObject({
    port: 8420,
    host: '127.0.0.1',
    publicUrl: 'http://127.0.0.1:8420',
    role: 'all',
    s3: undefined,
    trustedProxies: 0,
    demo: false,
    checkAnswers: false,
  });
});

it('an object store needs its address, bucket and keys', () => {
  expect(configFrom({ ...base, ...S3 }).s3).toEqual({
    endpoint: 'http://s3',
    bucket: 'b',
    key: 'k',
    secret: 's',
    region: 'us-east-1',
  });
  for (const name of Object.keys(S3).filter((name) => name !== 'KS_STORAGE'))
    expect(() => configFrom({ ...base, ...S3, [name]: '' })).toThrow(`${name} is not set`);
});

it('several wrong settings are named at once', () => {
  expect(() => configFrom({ ...base, PORT: 'x', KS_ROLE: 'boss' })).toThrow(/PORT must be[^]*\nKS_ROLE is one of/);
});

describe('a wrong setting is named', () => {
  it.each([
    [{ DATABASE_URL: '' }, 'DATABASE_URL is not set'],
    [{ PORT: 'http' }, 'PORT must be a whole number, 0 or more, not “http”'],
    [{ PORT: '1.5' }, 'PORT must be'],
    [{ KS_MAX_UPLOAD: '0' }, 'KS_MAX_UPLOAD must be a whole number, 1 or more'],
    [{ KS_TRUSTED_PROXIES: '-1' }, 'KS_TRUSTED_PROXIES must be'],
    [{ KS_PREPARATION_MB: '10' }, 'KS_PREPARATION_MB must be a whole number, 64 or more'],
    [{ KS_ROLE: 'boss' }, 'KS_ROLE is one of all, web, worker, not “boss”'],
    [{ KS_PUBLIC_URL: 'sheets.example' }, 'KS_PUBLIC_URL is an address that begins with http'],
    [{ KS_LOG: 'loud' }, 'KS_LOG is one of'],
    [{ PORT: '70000' }, 'PORT must be below 65536'],
    [{ KS_STORAGE: 'tape' }, 'KS_STORAGE is one of folder, s3, not “tape”'],
  ])('%j', (env, words) => expect(() => configFrom({ ...base, ...env })).toThrow(words));
});
