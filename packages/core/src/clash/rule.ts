/** A rule of clashes: one set of elements against another, what counts, and what is passed over. */
import type { ShownPart } from '../federation/shown-part.ts';
import { filterElements, type ElementFilter } from '../scene/element-filter.ts';
import { ElementIndex, OF_CODE, OF_TABLE } from '../scene/element-index.ts';
import type { ModelContent } from '../scene/prepared-files.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import { isOnLevel } from '../scene/levels.ts';
import { storeyOf } from '../scene/storeys.ts';
import type { Clash } from './find-clashes.ts';

export const CLASH_KINDS = ['hard', 'clearance', 'duplicate'] as const;
export type ClashKind = (typeof CLASH_KINDS)[number];
/**
 * Passed over: elements of one system; what sits in an opening of another, as doors do; insulation; elements of one model.
 * Touching is what the tolerance allows.
 */
export const CLASH_IGNORES = ['same system', 'hosted elements', 'insulation', 'same model'] as const;
export type ClashIgnore = (typeof CLASH_IGNORES)[number];

/** `lineUpId`: only what the line-up shows. */
export type RuleSet = ElementFilter & { lineUpId?: string | null };
export interface ClashRule {
  a: RuleSet;
  b: RuleSet;
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
  /** What the line-ups of the sets show of it; null where a set names none. */
  shown?: Readonly<Record<'a' | 'b', ShownPart | null>>;
}

/** How many elements of a model belong to the sets of a rule, and to either of them by storey. */
export interface TakenPart {
  a: number;
  b: number;
  storeys: Record<string, number>;
}

/** Rows of a model that belong to the sets of a rule, and what is passed over among them. */
export class RuledRows {
  readonly a: Uint8Array;
  readonly b: Uint8Array;
  private readonly index: ElementIndex;
  private readonly systems: readonly (string | null)[];
  private readonly table: ElementTable;
  /** Whether something sits in openings, has them, insulates: bits 1, 2, 4. */
  private readonly byClass: number[];
  private readonly byType: number[];

  constructor(
    { content: { table, properties }, parts, shown }: RuledModel,
    private readonly rule: ClashRule,
  ) {
    this.index = new ElementIndex(table, needsProperties(rule) ? properties : null, false);
    this.index.describe(parts);
    this.table = table;
    this.a = this.rowsOf(rule.a, shown?.a);
    this.b = this.rowsOf(rule.b, shown?.b);
    this.systems = rule.ignores.includes('same system') ? this.column('System') : [];
    this.byClass = table.classes.map(
      (name) => (HOSTED.test(name) ? 1 : 0) | (HOSTS.test(name) ? 2 : 0) | insulates(name),
    );
    this.byType = table.types.map(insulates);
  }

  private kindOf(row: number): number {
    const { table } = this;
    const type = table.type[row]!;
    return this.byClass[table.class[row]!]! | (type < 0 ? 0 : this.byType[type]!) | insulates(table.name[row]!);
  }

  takesPart = (row: number): boolean => (this.a[row]! | this.b[row]!) !== 0;

  taken(): TakenPart {
    const { nodes, node } = this.table;
    // One more for what stands nowhere.
    const onNodes = new Uint32Array(nodes.length + 1);
    let [a, b] = [0, 0];
    for (let row = 0; row < this.a.length; row++) {
      a += this.a[row]!;
      b += this.b[row]!;
      if (this.takesPart(row)) onNodes[node[row]! + 1]!++;
    }
    const storeys: Record<string, number> = {};
    onNodes.forEach((count, i) => {
      const name = nodes[storeyOf(nodes, i - 1)]?.name ?? '';
      if (count) storeys[name] = (storeys[name] ?? 0) + count;
    });
    return { a, b, storeys };
  }

  /** Whether a pair of elements counts. `sameModel`: both are of this model. */
  counts(row: number, other: RuledRows, otherRow: number, sameModel: boolean): boolean {
    if (!((this.a[row] && other.b[otherRow]) || (this.b[row] && other.a[otherRow]))) return false;
    const { ignores } = this.rule;
    if (sameModel && ignores.includes('same model')) return false;
    const [p, q] = [this.kindOf(row), other.kindOf(otherRow)];
    if (ignores.includes('insulation') && ((p | q) & 4) !== 0) return false;
    if (sameModel && ignores.includes('hosted elements') && ((p & 1 && q & 2) || (q & 1 && p & 2))) return false;
    const system = this.systems[row];
    return !system || system !== other.systems[otherRow];
  }

  private rowsOf(filter: ElementFilter, shown: ShownPart | null | undefined): Uint8Array {
    const holds = new Uint8Array(this.index.size);
    if (shown?.isLeftOut) return holds;
    if (!filter.conditions.length) holds.fill(1);
    else for (const row of filterElements(this.index, filter)) holds[row] = 1;
    if (shown) this.leaveOut(holds, shown);
    return holds;
  }
  private leaveOut(holds: Uint8Array, { levels, hidden }: ShownPart): void {
    const { nodes, node, globalId } = this.table;
    const floors = levels?.filter((level) => level !== null);
    const isShown = nodes.map((_, at) => {
      const storey = nodes[storeyOf(nodes, at)]!;
      const elevation = storey.class === 'IfcBuildingStorey' ? storey.elevation : null;
      return !floors || (elevation === null ? levels!.includes(null) : isOnLevel(elevation, floors));
    });
    const away = new Set(hidden);
    for (let row = 0; row < holds.length; row++)
      if (!(isShown[node[row]!] ?? (!levels || levels.includes(null))) || away.has(globalId[row]!)) holds[row] = 0;
  }
  private column(name: string): (string | null)[] {
    const values = Array.from({ length: this.index.size }, (): string | null => null);
    const column = this.index.get({ set: '', name });
    column?.rows.forEach((row, i) => (values[row] = String(column.values[column.of[i]!])));
    return values;
  }
}
/** Class, name, type and storey stand in the table. */
const needsProperties = ({ a, b, ignores }: ClashRule): boolean =>
  ignores.includes('same system') ||
  [...a.conditions, ...b.conditions].some(({ set, name }) =>
    set ? set !== OF_CODE : !(OF_TABLE as readonly string[]).includes(name),
  );

/** What sits in openings, and what has openings. */
const HOSTED = /^Ifc(?:Door|Window|OpeningElement)/;
const HOSTS = /^Ifc(?:Wall|Slab|Roof|CurtainWall|Plate|Covering|BuildingElementProxy)/;
const INSULATION = /insul|lagging/i;
const insulates = (text: string): number => (INSULATION.test(text) ? 4 : 0);

export const isCounted = ({ kinds }: ClashRule, { kind }: Pick<Clash, 'kind'>): boolean => kinds.includes(kind);
