import { XMLBuilder } from 'fast-xml-parser';

/** Elements in the order of their keys, attributes begin with `@`; what is undefined or an empty list is left out. */
export interface Written {
  [name: string]: string | number | boolean | Written | readonly Written[] | readonly string[] | undefined;
}

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  suppressBooleanAttributes: false,
  suppressEmptyNode: true,
  format: true,
});

export function writeXml(root: Written): Uint8Array<ArrayBuffer> {
  return new TextEncoder().encode(`<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(present(root))}`);
}

function present(element: Written): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(element).flatMap(([name, value]): [string, unknown][] => {
      if (value === undefined || (Array.isArray(value) && !value.length)) return [];
      if (Array.isArray(value))
        return [[name, value.map((one: Written | string) => (typeof one === 'string' ? clean(one) : present(one)))]];
      if (typeof value === 'object') return [[name, present(value as Written)]];
      return [[name, clean(String(value))]];
    }),
  );
}

/** Without the signs that XML cannot hold. */
// eslint-disable-next-line no-control-regex
const clean = (text: string): string => text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');
