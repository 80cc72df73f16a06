/** A rule of clashes: one set of elements against another, what counts, and what is passed over. */
import { filterElements, type ElementFilter } from '../scene/element-filter.ts';
import { ElementIndex } from '../scene/element-index.ts';
import type { ModelContent } from '../scene/prepared-files.ts';
import type { Clash } from './find-clashes.ts';

export const CLASH_KINDS = ['hard', 'clearance', 'duplicate'] as const;
export type ClashKind = (typeof CLASH_KINDS)[number];
/**
 * Passed over: elements of one system; what sits in an opening of another, as doors do; insulation; elements of one model.
 * Touching is what the tolerance allows.
 */
export const CLASH_IGNORES = ['same system', 'hosted elements', 'insulation', 'same model'] as const;
export type ClashIgnore = (typeof CLASH_IGNORES)[number];

export interface ClashRule {
  a: ElementFilter;
  b: ElementFilter;
  kinds: readonly ClashKind[];
  /** Metres: bodies that reach no deeper into each other are taken as touching. */
  tolerance: number;
  /** Metres that have to stay free; counts where clearances do. */
  clearance: number;
  ignores: readonly ClashIgnore[];
}

/** A model as a rule sees it. `parts`: of the code of its container, by the field's name. */
export interface RuledModel {
  content: ModelContent;
  parts: Readonly<Record<string, string>>;
}

/** Rows of a model that belong to the sets of a rule, and what is passed over among them. */
export class RuledRows {
  readonly a: Uint8Array;
  readonly b: Uint8Array;
  private readonly index: ElementIndex;
  private readonly systems: readonly (string | null)[];
  private readonly kinds: Uint8Array;

  constructor(
    { content: { table, properties }, parts }: RuledModel,
    private readonly rule: ClashRule,
  ) {
    this.index = new ElementIndex(table, properties);
    this.index.describe(parts);
    this.a = this.rowsOf(rule.a);
    this.b = this.rowsOf(rule.b);
    this.systems = rule.ignores.includes('same system') ? this.column('System') : [];
    this.kinds = Uint8Array.from(table.class, (of, row) => {
      const name = table.classes[of]!;
      const said = `${name} ${table.types[table.type[row]!] ?? ''} ${table.name[row]!}`;
      return (HOSTED.test(name) ? 1 : 0) | (HOSTS.test(name) ? 2 : 0) | (INSULATION.test(said) ? 4 : 0);
    });
  }

  takesPart = (row: number): boolean => (this.a[row]! | this.b[row]!) !== 0;

  /** Whether a pair of elements counts. `sameModel`: both are of this model. */
  counts(row: number, other: RuledRows, otherRow: number, sameModel: boolean): boolean {
    if (!((this.a[row] && other.b[otherRow]) || (this.b[row] && other.a[otherRow]))) return false;
    const { ignores } = this.rule;
    if (sameModel && ignores.includes('same model')) return false;
    const [p, q] = [this.kinds[row]!, other.kinds[otherRow]!];
    if (ignores.includes('insulation') && ((p | q) & 4) !== 0) return false;
    if (sameModel && ignores.includes('hosted elements') && ((p & 1 && q & 2) || (q & 1 && p & 2))) return false;
    const system = this.systems[row];
    return !system || system !== other.systems[otherRow];
  }

  private rowsOf(filter: ElementFilter): Uint8Array {
    const holds = new Uint8Array(this.index.size);
    for (const row of filterElements(this.index, filter)) holds[row] = 1;
    return holds;
  }
  private column(name: string): (string | null)[] {
    const values = Array.from({ length: this.index.size }, (): string | null => null);
    const column = this.index.get({ set: '', name });
    column?.rows.forEach((row, i) => (values[row] = String(column.values[column.of[i]!])));
    return values;
  }
}
/** What sits in openings, and what has openings. */
const HOSTED = /^Ifc(?:Door|Window|OpeningElement)/;
const HOSTS = /^Ifc(?:Wall|Slab|Roof|CurtainWall|Plate|Covering|BuildingElementProxy)/;
const INSULATION = /insul|lagging/i;

export const isCounted = ({ kinds }: ClashRule, { kind }: Pick<Clash, 'kind'>): boolean => kinds.includes(kind);
