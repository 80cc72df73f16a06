/**
 * A naming convention (ISO 19650): an ordered list of fields joined by a separator.
 * A field is a list of allowed values, a number with padding, or a pattern.
 */
export interface FieldValue {
  code: string;
  meaning: string;
}

export type Field =
  | { name: string; kind: 'list'; values: FieldValue[] }
  | { name: string; kind: 'number'; length: number }
  | { name: string; kind: 'pattern'; pattern: string; minLength?: number; maxLength?: number };

export interface Convention {
  name: string;
  separator: string;
  fields: Field[];
}

export interface FieldVerdict {
  field: string;
  value: string;
  ok: boolean;
  problem?: string;
  nearest?: string;
}

export interface NameVerdict {
  name: string;
  ok: boolean;
  fields: FieldVerdict[];
  problem?: string;
}

/** Judges `name` (without extension) field by field. Never throws on any name. */
export function checkName(convention: Convention, name: string): NameVerdict {
  const parts = name.split(convention.separator);
  const fields = convention.fields.map((field, i) => checkField(field, parts[i]));
  const wanted = convention.fields.length;
  const problem =
    parts.length === wanted
      ? undefined
      : `${parts.length} fields where the convention has ${wanted}: ${shape(convention)}`;
  return { name, ok: !problem && fields.every((field) => field.ok), fields, ...(problem && { problem }) };
}

/** What each field of a name stands for: `{ Originator: 'TVA · Ternvale Architects' }`. */
export function decodeName(convention: Convention, name: string): { field: string; code: string; meaning: string }[] {
  const parts = name.split(convention.separator);
  return convention.fields.map((field, i) => {
    const code = parts[i] ?? '';
    const meaning = field.kind === 'list' ? (field.values.find((value) => value.code === code)?.meaning ?? '') : '';
    return { field: field.name, code, meaning };
  });
}

/** `Project-Originator-…`, as shown to people. */
export function shape(convention: Convention): string {
  return convention.fields.map((field) => field.name).join(` ${convention.separator} `);
}

function checkField(field: Field, value: string | undefined): FieldVerdict {
  const verdict = (problem?: string, nearest?: string): FieldVerdict => ({
    field: field.name,
    value: value ?? '',
    ok: !problem,
    ...(problem && { problem }),
    ...(nearest && { nearest }),
  });
  if (value === undefined || value === '') return verdict('is missing', exampleOf(field));
  switch (field.kind) {
    case 'list': {
      if (field.values.some((allowed) => allowed.code === value)) return verdict();
      const codes = field.values.map((allowed) => allowed.code);
      return verdict(`“${value}” is not an allowed value`, nearestCode(codes, value));
    }
    case 'number': {
      if (new RegExp(`^\\d{${field.length}}$`).test(value)) return verdict();
      const digits = value.replace(/\D/g, '').replace(/^0+(?=\d)/, '');
      const nearest = digits && digits.length <= field.length ? digits.padStart(field.length, '0') : undefined;
      return verdict(`“${value}” must be ${field.length} digits`, nearest);
    }
    case 'pattern': {
      const { minLength = 0, maxLength = Infinity } = field;
      if (value.length < minLength || value.length > maxLength)
        return verdict(`“${value}” must have ${lengthRange(minLength, maxLength)} characters`);
      if (new RegExp(`^(?:${field.pattern})$`, 'u').test(value)) return verdict();
      const upper = value.toUpperCase();
      const nearest = new RegExp(`^(?:${field.pattern})$`, 'u').test(upper) ? upper : undefined;
      return verdict(`“${value}” does not fit ${field.pattern}`, nearest);
    }
  }
}

function exampleOf(field: Field): string | undefined {
  if (field.kind === 'list') return field.values[0]?.code;
  return field.kind === 'number' ? '1'.padStart(field.length, '0') : undefined;
}

function lengthRange(min: number, max: number): string {
  if (max === Infinity) return `at least ${min}`;
  return min === max ? `exactly ${min}` : `${min} to ${max}`;
}

/** The code with the smallest edit distance, if it is close enough to be a slip of the hand. */
export function nearestCode(codes: readonly string[], value: string): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.ceil(value.length / 2)) + 1;
  for (const code of codes) {
    const distance = editDistance(code.toUpperCase(), value.toUpperCase());
    if (distance < bestDistance) [best, bestDistance] = [code, distance];
  }
  return best;
}

/** Levenshtein distance, two rows, O(a·b). */
export function editDistance(a: string, b: string): number {
  let previous = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    for (let j = 1; j <= b.length; j++) {
      const substitution = previous[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
      current.push(Math.min(substitution, previous[j]! + 1, current[j - 1]! + 1));
    }
    previous = current;
  }
  return previous[b.length]!;
}
