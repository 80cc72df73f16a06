/** Words of ready stamps: fields in braces that are filled when one is placed. */

export const STAMP_FIELDS = ['date', 'name', 'code', 'revision', 'decision'] as const;
export type StampField = (typeof STAMP_FIELDS)[number];

const isField = (name: string): name is StampField => (STAMP_FIELDS as readonly string[]).includes(name);

/** The fields of a stamp, each once, in their order; words in braces that are none stay words. */
export const stampFields = (text: string): StampField[] => [
  ...new Set([...text.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!).filter(isField)),
];

export const fillStamp = (text: string, values: Partial<Record<StampField, string>>): string =>
  text.replace(/\{(\w+)\}/g, (whole, name: string) => (isField(name) ? (values[name] ?? '') : whole));
