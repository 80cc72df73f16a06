/** What a change of a convention does to 100,000 names, against validating each name through Ajv one by one. */
import type { Convention, Field } from '@kindred/core/naming/convention';
import { conventionEffect } from '@kindred/core/naming/effect';
import { createRequire } from 'node:module';
import { BUILDING_CONVENTION } from '../../packages/server/src/portfolio/starters/naming.ts';
import { ratio, report, timed } from './measure.ts';

// The copy of the server: another package brings an older one to the top.
const { Ajv } = createRequire(new URL('../../packages/server/src/main.ts', import.meta.url))(
  'ajv',
) as typeof import('ajv');
const NAMES = 100_000;
const { fields, separator } = BUILDING_CONVENTION;
const pick = (field: Field, n: number): string => {
  if (field.kind === 'list') return field.values[n % field.values.length]!.code;
  return field.kind === 'number' ? String(n % 10_000).padStart(4, '0') : ['TVA', 'HQS', 'BWS'][n % 3]!;
};
const names = Array.from({ length: NAMES }, (_, n) =>
  // One in ten does not conform.
  fields.map((field, i) => (n % 10 === 0 && i === n % 7 ? 'wrong!' : pick(field, n * 7 + i))).join(separator),
);
const after: Convention = {
  ...BUILDING_CONVENTION,
  fields: fields.map((field) =>
    field.kind === 'list' && field.name === 'Discipline' ? { ...field, values: field.values.slice(0, 3) } : field,
  ),
};

const schemaOf = (field: Field) => {
  if (field.kind === 'list') return { type: 'string', enum: field.values.map(({ code }) => code) };
  if (field.kind === 'number') return { type: 'string', pattern: `^[0-9]{${field.length}}$` };
  return { type: 'string', pattern: `^(?:${field.pattern})$`, minLength: field.minLength, maxLength: field.maxLength };
};
const validate = new Ajv({ strict: false }).compile({
  type: 'array',
  minItems: fields.length,
  maxItems: fields.length,
  prefixItems: after.fields.map(schemaOf),
  items: after.fields.map(schemaOf),
});

let [conforming, stopping] = [0, 0];
const effect = () =>
  timed(() => {
    stopping = conventionEffect(BUILDING_CONVENTION, after, names).stop.length;
  });
const oneByOne = () =>
  timed(() => {
    conforming = names.filter((name) => validate(name.split(separator))).length;
  });
const measured = await ratio(effect, oneByOne, 7);
report(`the effect of a convention change on ${NAMES} names, ms, against Ajv name by name`, measured, { atMost: 0.5 });
console.log(`       (${conforming} conform after the change, ${stopping} would stop)`);
