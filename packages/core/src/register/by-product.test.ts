import { expect, it } from 'vitest';
import { isByProduct } from './by-product.ts';

it.each([
  '.DS_Store',
  '._ORP-TVA.pdf',
  'Thumbs.db',
  'desktop.ini',
  'Icon\r',
  '~$Schedule.xlsx',
  '.~lock.Schedule.ods#',
  'plan.pdf~',
  'a.tmp',
  'b.part',
  'c.dwl',
  'd.ifc.crdownload',
  'e.bak',
])('%s is nobody’s delivery', (name) => expect(isByProduct(name)).toBe(true));
it.each(['ORP-TVA-ZZ-00-D-A-0101.pdf', 'Thumbs.db.pdf', 'a~b.ifc', 'Icon.png'])('%s is delivered', (name) =>
  expect(isByProduct(name)).toBe(false),
);
