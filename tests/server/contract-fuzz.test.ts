/** No malformed request answers 500: all operations of the contract, with values that a schema would and would not let through, from a seed. */
import { operations } from '@kindred/contract/api';
import type { AnyOperation } from '@kindred/contract/platform/operation';
import type { TSchema } from '@sinclair/typebox';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { deliverFile, inFull, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

const ROUNDS = inFull ? 200 : 12;
let server: TestServer;
let project: TestProject;
/** Ids of things that are there: requests reach the services, not only the validation. */
const known: string[] = [];
beforeAll(async () => {
  server = await testServer({ costlyPerMinute: { person: 1e6, project: 1e6 } });
  project = await testProject(server);
  const { containerId, versionId } = await deliverFile(
    project,
    project.founder,
    'Architecture / Drawings',
    'ORP-TVA-ZZ-00-D-A-0101.pdf',
    Buffer.from('%PDF-1.4'),
  );
  known.push(containerId, versionId, project.creatorId, ...project.folders.values(), ...project.teams.values());
  known.push(...project.roles.values());
});
afterAll(() => server.remove());

const STRANGE_TEXTS = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\uD800',
  '\uDC00x',
  '\u202E',
  "'; drop table users; --",
  '%',
  '\\',
  '🏗',
  'x'.repeat(3000),
  '-1',
  '1e999',
  '__proto__',
  'null',
];
const STRANGE_NUMBERS = [0, -1, 1.5, 2 ** 31, 2 ** 53, -(2 ** 63), 1e308, 5e-324];
const strange = fc.oneof(
  fc.constantFrom<unknown>(...STRANGE_TEXTS, ...STRANGE_NUMBERS, null, true, [], {}, [[[[[]]]]]),
  fc.jsonValue({ maxDepth: 3 }),
);
const id = fc.oneof(
  { weight: 4, arbitrary: fc.nat().map((n) => known[n % known.length]!) },
  { weight: 1, arbitrary: fc.uuid() },
);

/** Values that fit a schema, at its edges. */
function fitting(schema: TSchema): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...(schema.enum as unknown[]));
  const options = (schema.anyOf ?? schema.oneOf) as TSchema[] | undefined;
  if (options) return fc.oneof(...options.map(fitting));
  if (schema.allOf)
    return fc
      .tuple(...(schema.allOf as TSchema[]).map(fitting))
      .map((parts) => Object.assign({}, ...(parts as object[])) as unknown);
  const type = [schema.type].flat()[0] as string | undefined;
  if (type === 'object') {
    const properties = (schema.properties ?? {}) as Record<string, TSchema>;
    const parts = Object.fromEntries(Object.entries(properties).map(([key, part]) => [key, fitting(part)]));
    return fc.record(parts, { requiredKeys: (schema.required as string[] | undefined) ?? [] });
  }
  if (type === 'array')
    return fc.array(fitting(schema.items as TSchema), {
      minLength: (schema.minItems as number | undefined) ?? 0,
      maxLength: Math.min(
        (schema.maxItems as number | undefined) ?? 4,
        ((schema.minItems as number | undefined) ?? 0) + 3,
      ),
    });
  if (type === 'integer' || type === 'number') {
    const [min, max] = [
      (schema.minimum as number | undefined) ?? -(2 ** 40),
      (schema.maximum as number | undefined) ?? 2 ** 40,
    ];
    return type === 'integer' ? fc.integer({ min, max }) : fc.double({ min, max, noNaN: true });
  }
  if (type === 'boolean') return fc.boolean();
  if (type === 'null') return fc.constant(null);
  if (type !== 'string') return strange;
  if (schema.format === 'uuid') return id;
  if (schema.format === 'date') return fc.constantFrom('2026-02-28', '0001-01-01', '9999-12-31');
  if (schema.format === 'date-time') return fc.constantFrom('2026-05-30T09:00:00Z', '0001-01-01T00:00:00Z');
  if (schema.format === 'email') return fc.constantFrom('a@b.example', `${'x'.repeat(60)}@b.example`);
  const maxLength = Math.min((schema.maxLength as number | undefined) ?? 60, 200);
  return fc.oneof(
    fc.string({ minLength: (schema.minLength as number | undefined) ?? 0, maxLength }),
    fc.constantFrom(...STRANGE_TEXTS.map((text) => text.slice(0, maxLength))),
  );
}
/** Mostly what fits, now and then something else in one place. */
const nearly = (schema: TSchema): fc.Arbitrary<unknown> =>
  fc.tuple(fitting(schema), fc.nat(99), strange, fc.nat()).map(([value, dice, odd, at]) => {
    if (dice < 60) return value;
    if (typeof value !== 'object' || value === null || dice > 95) return odd;
    const keys = Object.keys(value);
    return keys.length ? { ...value, [keys[at % keys.length]!]: odd } : odd;
  });

/** Signing out, and what would end or hide what the others need. */
const LEFT_OUT = new Set([
  'signOut',
  'endAllOthers',
  'createFirstPerson',
  'changePassword',
  'removePerson',
  'changePerson',
]);
const walked = operations.map(({ operation }) => operation).filter(({ id: name }) => !LEFT_OUT.has(name));

async function send(operation: AnyOperation, params: Record<string, unknown>, query: unknown, body: unknown) {
  const path = operation.path.replace(/:(\w+)/g, (_, name: string) =>
    name === 'projectId' ? project.projectId : encodeURIComponent(wellFormed(params[name])),
  );
  const asked = new URLSearchParams();
  for (const [key, value] of Object.entries(typeof query === 'object' && query !== null ? query : {}))
    asked.append(key, wellFormed(value));
  const response = await fetch(`${server.address}/api${path}?${asked}`, {
    method: operation.method.toUpperCase(),
    headers: { ...project.founder.headersForFiles(), 'content-type': 'application/json' },
    ...(operation.method !== 'get' && operation.body.type !== 'null' && { body: JSON.stringify(body) ?? 'null' }),
  });
  return { status: response.status, text: await response.text() };
}
/** An address cannot carry halves of surrogate pairs. */
const wellFormed = (value: unknown): string => Buffer.from(String(value)).toString();

it.each(walked.map((operation) => [operation.id, operation] as const))(
  '%s answers whatever it is sent',
  { timeout: 300_000 },
  async (_, operation) => {
    await fc.assert(
      fc.asyncProperty(
        nearly(operation.params),
        nearly(operation.query),
        nearly(operation.body),
        async (params, query, body) => {
          const asked = typeof params === 'object' && params !== null ? (params as Record<string, unknown>) : {};
          const { status, text } = await send(operation, asked, query, body);
          expect(status, text.slice(0, 300)).toBeLessThan(500);
          if (status >= 400) expect(JSON.parse(text)).toMatchObject({ status, code: expect.any(String) as string });
        },
      ),
      { numRuns: ROUNDS, seed: 20_261 },
    );
  },
);

it.each([
  ['/api/%00', 404],
  ['/api/projects/%FF', 400],
  ['/api/projects/../../etc/passwd', 404],
  ['/api/uploads/%00', 404],
])('the address %s answers %i', async (address, status) => {
  const response = await fetch(`${server.address}${address}`, { headers: project.founder.headersForFiles() });
  expect(response.status).toBe(status);
});
