import { expect, it } from 'vitest';
import { baseSchema, withBaseSchema } from './schema-name.ts';

it('an addendum, a corrigendum and a release candidate are read as what they add to', () => {
  const known = {
    IFC4_ADD2: 'IFC4',
    IFC4_ADD2_TC1: 'IFC4',
    IFC2X3_TC1: 'IFC2X3',
    IFC4X3_ADD2: 'IFC4X3',
    IFC4X2: 'IFC4X3',
  };
  for (const [name, base] of Object.entries(known)) expect(baseSchema(name)).toBe(base);
  for (const name of ['IFC4', 'IFC2X3', 'IFC4X3', 'IFC5', 'AP214', 'IFC2X2']) expect(baseSchema(name)).toBe(name);
});

it('the header says so as long as somebody reads it, and what it said afterwards', () => {
  const text = "ISO-10303-21;\nHEADER;\nFILE_SCHEMA (( 'IFC4_ADD2' ));\nENDSEC;";
  const bytes = new TextEncoder().encode(text);
  const read = (): string => new TextDecoder().decode(bytes);
  expect(withBaseSchema(bytes, 'IFC4_ADD2', read)).toBe(text.replace("'IFC4_ADD2'", "'IFC4'     "));
  expect(() =>
    withBaseSchema(bytes, 'IFC4_ADD2', () => {
      throw new Error('no');
    }),
  ).toThrow('no');
  expect(read()).toBe(text);
});
