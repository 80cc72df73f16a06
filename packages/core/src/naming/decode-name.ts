import type { Convention } from './convention.ts';

/** What each field of a name stands for. */
export function decodeName(convention: Convention, name: string): { field: string; code: string; meaning: string }[] {
  const parts = name.split(convention.separator);
  return convention.fields.map((field, i) => {
    const code = parts[i] ?? '';
    const meaning = field.kind === 'list' ? (field.values.find((value) => value.code === code)?.meaning ?? '') : '';
    return { field: field.name, code, meaning };
  });
}

/** The parts of a name by field; empty when their number is not that of the fields. */
export function nameFields({ fields, separator }: Convention, name: string): Record<string, string> {
  const parts = name.split(separator);
  return parts.length === fields.length ? Object.fromEntries(fields.map((field, i) => [field.name, parts[i]!])) : {};
}
