/**
 * Everything that is said of the elements of a model, property by property, so that one can search, filter, group and sum without asking
 * for each of them. Built once, beside the page.
 */
import type { ElementTable } from './prepare-model.ts';
import type { Property, PropertySet } from './ifc-properties.ts';
import type { DecodedProperties } from './property-file.ts';
import { storeyOf } from './storeys.ts';

export type Value = string | number | boolean;

/** Which property: of which set; what the element table says stands in none. */
export interface PropertyKey {
  set: string;
  name: string;
}
export interface Column extends PropertyKey {
  kind: PropertySet['kind'] | 'element';
  unit?: string;
  /** All of its values are numbers. */
  numeric: boolean;
  /** Distinct values. */
  values: Value[];
  /** Rows that have the property, ascending, and for each of them the number of its value. */
  rows: Uint32Array;
  of: Uint32Array;
}
/** A column without its rows. */
export interface ColumnSummary extends PropertyKey {
  kind: Column['kind'];
  unit?: string;
  numeric: boolean;
  distinct: number;
  rows: number;
}

/** What is said of elements in the table itself, and gathered from their sets. */
export const OF_TABLE = ['Name', 'Class', 'Type', 'Storey', 'GlobalId'] as const;
export const OF_ELEMENT = [...OF_TABLE, ...['Material', 'Classification', 'System', 'Zone']] as const;

/** The set of what the code of a model says of all its elements. */
export const OF_CODE = 'Code';

export const keyOf = ({ set, name }: PropertyKey): string => `${set}\n${name}`;

class ColumnWriter {
  private readonly numbers = new Map<Value, number>();
  readonly values: Value[] = [];
  readonly rows: number[] = [];
  readonly of: number[] = [];
  numeric = true;

  constructor(
    readonly key: PropertyKey,
    readonly kind: Column['kind'],
    public unit: string | undefined,
  ) {}

  add(row: number, value: Value): void {
    let number = this.numbers.get(value);
    if (number === undefined) {
      this.numbers.set(value, (number = this.values.push(value) - 1));
      if (typeof value !== 'number') this.numeric = false;
    }
    this.rows.push(row);
    this.of.push(number);
  }

  finish(): Column {
    const { key, kind, unit, numeric, values } = this;
    const rows = Uint32Array.from(this.rows);
    return { ...key, kind, ...(unit && { unit }), numeric, values, rows, of: Uint32Array.from(this.of) };
  }
}

export class ElementIndex {
  readonly size: number;
  private readonly columns = new Map<string, Column>();
  private readonly words: WordIndex | null;

  /** Without `properties` it knows what the table says; for whoever neither searches for words nor lists columns these are made when they are asked for. O(properties of all elements). */
  constructor(
    private readonly table: ElementTable,
    properties: DecodedProperties | null,
    isSearched = true,
  ) {
    this.size = table.globalId.length;
    const own = isSearched ? OF_TABLE.map((name) => tableColumn(table, name)) : [];
    for (const column of [...own, ...(properties ? propertyColumns(properties) : [])])
      this.columns.set(keyOf(column), column);
    this.words = isSearched ? new WordIndex(this.size, [...this.columns.values()]) : null;
  }

  /** Says the same of all rows: what the code of the model's container tells, by the name of its part. */
  describe(parts: Readonly<Record<string, string>>): void {
    const rows = new Uint32Array(this.size);
    for (let row = 0; row < rows.length; row++) rows[row] = row;
    for (const [name, value] of Object.entries(parts)) {
      const key = { set: OF_CODE, name };
      const of = new Uint32Array(this.size);
      this.columns.set(keyOf(key), { ...key, kind: 'element', numeric: false, values: [value], rows, of });
    }
  }

  list(): ColumnSummary[] {
    return [...this.columns.values()].map(({ values, rows, of, ...rest }) => {
      void of;
      return { ...rest, distinct: values.length, rows: rows.length };
    });
  }
  get(key: PropertyKey): Column | undefined {
    const known = this.columns.get(keyOf(key));
    const name = OF_TABLE.find((one) => one === key.name);
    if (known || key.set || !name) return known;
    const column = tableColumn(this.table, name);
    this.columns.set(keyOf(key), column);
    return column;
  }

  /** Rows of which all words are said, in any of their properties. */
  search(words: string): Uint32Array {
    return this.words?.search(words) ?? new Uint32Array();
  }
}

type OfTable = (typeof OF_TABLE)[number];
function tableColumn(table: ElementTable, name: OfTable): Column {
  const valueOf: Record<OfTable, (row: number) => string | undefined> = {
    Name: (row) => table.name[row],
    Class: (row) => table.classes[table.class[row]!],
    Type: (row) => table.types[table.type[row]!],
    Storey: (row) => table.nodes[storeyOf(table.nodes, table.node[row]!)]?.name,
    GlobalId: (row) => table.globalId[row],
  };
  const column = new ColumnWriter({ set: '', name }, 'element', undefined);
  for (let row = 0; row < table.globalId.length; row++) {
    const value = valueOf[name](row);
    if (value) column.add(row, value);
  }
  return column.finish();
}

/** What of a set is gathered under one name of the element. */
function gathered({ kind }: PropertySet, { name, value }: Property): { name: string; value: Value } | undefined {
  if (value === null) return undefined;
  if (kind === 'materials') return name.includes(' / ') ? undefined : { name: 'Material', value };
  if (kind === 'classification') return { name: 'Classification', value: value === name ? value : `${name} ${value}` };
  return kind === 'groups' && (name === 'System' || name === 'Zone') ? { name, value } : undefined;
}

function propertyColumns({ sets, numbers, starts }: DecodedProperties): Column[] {
  const writers = new Map<string, ColumnWriter>();
  /** Each set as values of columns: it is read once, whoever shares it. */
  const written = sets.map((set) =>
    set.properties.flatMap((property) => {
      const { name, value, unit } = property;
      if (value === null || value === '') return [];
      const under = gathered(set, property);
      const key = under ? { set: '', name: under.name } : { set: set.name, name };
      let writer = writers.get(keyOf(key));
      if (!writer) writers.set(keyOf(key), (writer = new ColumnWriter(key, under ? 'element' : set.kind, unit)));
      if (writer.unit !== unit) writer.unit = undefined;
      return { writer, value: under?.value ?? value, ofType: set.from === 'type' };
    }),
  );
  for (let row = 0; row + 1 < starts.length; row++) {
    const said = new Set<ColumnWriter>();
    const ofType: { writer: ColumnWriter; value: Value }[] = [];
    for (let i = starts[row]!; i < starts[row + 1]!; i++)
      for (const { writer, value, ofType: later } of written[numbers[i]!]!) {
        if (later) ofType.push({ writer, value });
        else {
          writer.add(row, value);
          said.add(writer);
        }
      }
    // What an element says for itself replaces what its type says.
    for (const { writer, value } of ofType) if (!said.has(writer)) writer.add(row, value);
  }
  return [...writers.values()].filter(({ rows }) => rows.length).map((writer) => writer.finish());
}

/** All distinct words of all columns in one long text: searched as a whole, by the fastest search there is. */
class WordIndex {
  private readonly text: string;
  private readonly starts: Uint32Array;
  /** For each text: the rows that say it, as starts into `rows`. */
  private readonly rowStarts: Uint32Array;
  private readonly rows: Uint32Array;

  constructor(
    private readonly size: number,
    columns: readonly Column[],
  ) {
    const numberOf = new Map<string, number>();
    const texts: string[] = [];
    const perColumn = columns.map(({ values }) =>
      Uint32Array.from(values, (value) => {
        const text = String(value).toLowerCase();
        let number = numberOf.get(text);
        if (number === undefined) numberOf.set(text, (number = texts.push(text) - 1));
        return number;
      }),
    );
    this.starts = new Uint32Array(texts.length + 1);
    texts.forEach((text, i) => (this.starts[i + 1] = this.starts[i]! + text.length + 1));
    this.text = texts.join('\n');
    const counts = new Uint32Array(texts.length + 1);
    columns.forEach(({ of }, c) => of.forEach((value) => counts[perColumn[c]![value]! + 1]!++));
    for (let i = 0; i < texts.length; i++) counts[i + 1]! += counts[i]!;
    this.rowStarts = counts;
    this.rows = new Uint32Array(counts[texts.length]!);
    const next = counts.slice();
    columns.forEach(({ rows, of }, c) =>
      of.forEach((value, i) => (this.rows[next[perColumn[c]![value]!]!++] = rows[i]!)),
    );
  }

  search(words: string): Uint32Array {
    const wanted = [...new Set(words.toLowerCase().split(/\s+/).filter(Boolean))];
    const found = new Uint8Array(this.size);
    wanted.forEach((word, turn) => {
      let number = 0;
      for (let at = this.text.indexOf(word); at >= 0;) {
        number = this.numberAt(at, number);
        for (let i = this.rowStarts[number]!; i < this.rowStarts[number + 1]!; i++)
          if (found[this.rows[i]!] === turn) found[this.rows[i]!] = turn + 1;
        at = this.text.indexOf(word, this.starts[number + 1]);
      }
    });
    return rowsWhere(this.size, (row) => found[row] === wanted.length);
  }

  /** The text at a position, not before the one that is given. */
  private numberAt(at: number, from: number): number {
    // What is found often is found again soon: steps that double come there faster than halves of all.
    let step = 1;
    while (from + step < this.starts.length && this.starts[from + step]! <= at) step *= 2;
    let [low, high] = [from + (step >> 1), Math.min(from + step, this.starts.length - 1)];
    while (low + 1 < high) {
      const middle = (low + high) >> 1;
      if (this.starts[middle]! <= at) low = middle;
      else high = middle;
    }
    return low;
  }
}

export function rowsWhere(size: number, wanted: (row: number) => boolean): Uint32Array {
  const rows = new Uint32Array(size);
  let count = 0;
  for (let row = 0; row < size; row++) if (wanted(row)) rows[count++] = row;
  return rows.slice(0, count);
}
