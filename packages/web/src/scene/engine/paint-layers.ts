/**
 * What is drawn of each element: layers that lie over one another. Hidden wins over selected, selected over what others have selected, that
 * over ghost, ghost over a colour, and under all of them is the element's own look.
 */
import { elementNumber, rowOf, slotOf } from './element-numbers.ts';

/** An element's own colour, none at all, a pale trace of it, marked as selected, or a colour (0xRRGGBB). */
export type Look = 'own' | 'hidden' | 'ghost' | 'selected' | number;

export interface PaintedModel {
  readonly elements: number;
  paint(row: number, look: Look): void;
}
/** What becomes of the elements that are not isolated. */
export type Rest = 'hidden' | 'ghost';

/** `NEXT`: about to be isolated. */
const [HIDDEN, GHOST, SELECTED, ISOLATED, NEXT] = [1, 2, 4, 8, 16];
/** A colour of a row is this and the colour; 0: none. */
const COLOURED = 0x1000000;

interface Layers {
  model: PaintedModel;
  flags: Uint8Array;
  colours: Uint32Array | null;
  /** Row → colour of whoever else has selected it. */
  others: Map<number, number>;
}

export interface PaintState {
  hidden: readonly number[];
  ghosts: readonly number[];
  isolated: readonly number[] | null;
  rest: Rest;
  selection: readonly number[];
}

export class PaintLayers {
  private readonly models = new Map<number, Layers>();
  private readonly selected = new Set<number>();
  private isolating: Rest | null = null;
  onChanged: () => void = () => undefined;

  addModel(slot: number, model: PaintedModel): void {
    this.models.set(slot, { model, flags: new Uint8Array(model.elements), colours: null, others: new Map() });
    if (this.isolating) this.repaintAll();
  }

  /** More of a model is drawn than before: some rows are painted for the first time. */
  addRows(slot: number, rows: Iterable<number>): void {
    const layers = this.models.get(slot)!;
    for (const row of rows) {
      const look = this.lookOf(layers, row);
      if (look !== 'own') layers.model.paint(row, look);
    }
    this.onChanged();
  }

  removeModel(slot: number): void {
    this.models.delete(slot);
    for (const element of this.selected) if (slotOf(element) === slot) this.selected.delete(element);
    this.onChanged();
  }

  get selection(): ReadonlySet<number> {
    return this.selected;
  }
  get isIsolating(): boolean {
    return this.isolating !== null;
  }
  /** Anything hidden, ghosted or isolated. */
  get isThinned(): boolean {
    return this.isIsolating || this.has(HIDDEN | GHOST);
  }
  isHidden = (element: number): boolean => {
    const flags = this.flagsOf(element);
    return (flags & HIDDEN) !== 0 || (this.isolating === 'hidden' && !(flags & ISOLATED));
  };
  /** Neither hidden nor a ghost: a click meets it. */
  isSolid = (slot: number, row: number): boolean => {
    const flags = this.models.get(slot)?.flags[row] ?? HIDDEN;
    return !(flags & (HIDDEN | GHOST)) && (!this.isolating || (flags & ISOLATED) !== 0);
  };

  /** `add`: beside what is selected; what is selected already is taken out again. */
  select(elements: Iterable<number>, add = false): void {
    const before = [...this.selected];
    if (!add) this.selected.clear();
    for (const element of elements) if (!this.selected.delete(element) || !add) this.selected.add(element);
    for (const element of before) if (!this.selected.has(element)) this.flag(element, SELECTED, false);
    for (const element of this.selected) this.flag(element, SELECTED, true);
    this.onChanged();
  }

  /** What others have selected: element → colour (0xRRGGBB). */
  selectOfOthers(elements: ReadonlyMap<number, number>): void {
    const before = [...this.models].flatMap(([slot, { others }]) =>
      [...others.keys()].map((row) => elementNumber(slot, row)),
    );
    for (const { others } of this.models.values()) others.clear();
    for (const [element, colour] of elements) this.models.get(slotOf(element))?.others.set(rowOf(element), colour);
    for (const element of new Set([...before, ...elements.keys()])) this.repaint(element);
    this.onChanged();
  }

  /** What is hidden is selected no more. */
  hide(elements: Iterable<number>): void {
    for (const element of elements) {
      this.selected.delete(element);
      this.flag(element, SELECTED, false);
      this.flag(element, HIDDEN, true);
    }
    this.onChanged();
  }

  /** Among what is isolated too, where anything is. */
  show(elements: Iterable<number>): void {
    for (const element of elements) {
      if (this.isolating) this.flag(element, ISOLATED, true);
      this.flag(element, HIDDEN, false);
      this.flag(element, GHOST, false);
    }
    this.onChanged();
  }

  /** Ghosts where any of them is none yet, else as they were. */
  ghost(elements: readonly number[]): void {
    const on = elements.some((element) => !(this.flagsOf(element) & GHOST));
    for (const element of elements) this.flag(element, GHOST, on);
    this.onChanged();
  }

  isolate(elements: Iterable<number>, rest: Rest = 'hidden'): void {
    const isOther = this.isolating !== rest;
    this.isolating = rest;
    for (const element of elements) {
      const layers = this.models.get(slotOf(element));
      if (layers) layers.flags[rowOf(element)]! |= NEXT;
    }
    // From one level to the next most elements stay what they are.
    for (const layers of this.models.values()) {
      const { flags, model } = layers;
      for (let row = 0; row < flags.length; row++) {
        const had = flags[row]!;
        const has = (had & ~(ISOLATED | NEXT)) | (had & NEXT ? ISOLATED : 0);
        flags[row] = has;
        if (isOther || (had ^ has) & ISOLATED) model.paint(row, this.lookOf(layers, row));
      }
    }
    this.onChanged();
  }

  /** Everything that was hidden, ghosted or isolated is back. */
  showAll(): void {
    this.clear(HIDDEN | GHOST | ISOLATED);
    this.isolating = null;
    this.repaintAll();
    this.onChanged();
  }

  /** By slot a colour (0xRRGGBB) for each row, −1 for none; null takes the colours away. */
  colour(colours: ReadonlyMap<number, Int32Array> | null): void {
    for (const [slot, layers] of this.models) {
      const rows = colours?.get(slot);
      layers.colours = rows ? Uint32Array.from(rows, (colour) => (colour < 0 ? 0 : colour + COLOURED)) : null;
    }
    this.repaintAll();
    this.onChanged();
  }

  /** All of it at once, as a viewpoint keeps it. */
  apply({ hidden, ghosts, isolated, rest, selection }: PaintState): void {
    this.clear(HIDDEN | GHOST | ISOLATED | SELECTED);
    this.selected.clear();
    this.isolating = isolated ? rest : null;
    const set = (elements: readonly number[], bit: number): void => {
      for (const element of elements) {
        const layers = this.models.get(slotOf(element));
        if (layers) layers.flags[rowOf(element)]! |= bit;
      }
    };
    set(hidden, HIDDEN);
    set(ghosts, GHOST);
    set(isolated ?? [], ISOLATED);
    set(selection, SELECTED);
    for (const element of selection) this.selected.add(element);
    this.repaintAll();
    this.onChanged();
  }

  state(): PaintState {
    return {
      hidden: this.with(HIDDEN),
      ghosts: this.with(GHOST),
      isolated: this.isolating && this.with(ISOLATED),
      rest: this.isolating ?? 'hidden',
      selection: [...this.selected],
    };
  }

  /** Every element that one sees as it is. */
  solids(): number[] {
    return this.every((slot, row) => this.isSolid(slot, row));
  }

  private with(bit: number): number[] {
    return this.every((slot, row) => (this.models.get(slot)!.flags[row]! & bit) !== 0);
  }
  private every(wanted: (slot: number, row: number) => boolean): number[] {
    const found: number[] = [];
    for (const [slot, { flags }] of this.models)
      for (let row = 0; row < flags.length; row++) if (wanted(slot, row)) found.push(elementNumber(slot, row));
    return found;
  }
  private has(bits: number): boolean {
    for (const { flags } of this.models.values()) if (flags.some((one) => one & bits)) return true;
    return false;
  }
  private flagsOf(element: number): number {
    return this.models.get(slotOf(element))?.flags[rowOf(element)] ?? 0;
  }
  private flag(element: number, bit: number, on: boolean): void {
    const layers = this.models.get(slotOf(element));
    const row = rowOf(element);
    if (!layers || row >= layers.flags.length || (layers.flags[row]! & bit) === (on ? bit : 0)) return;
    layers.flags[row]! ^= bit;
    layers.model.paint(row, this.lookOf(layers, row));
  }
  private repaint(element: number): void {
    const layers = this.models.get(slotOf(element));
    const row = rowOf(element);
    if (layers && row < layers.flags.length) layers.model.paint(row, this.lookOf(layers, row));
  }
  private clear(bits: number): void {
    for (const { flags } of this.models.values()) for (let row = 0; row < flags.length; row++) flags[row]! &= ~bits;
  }
  private repaintAll(): void {
    for (const layers of this.models.values())
      for (let row = 0; row < layers.flags.length; row++) layers.model.paint(row, this.lookOf(layers, row));
  }

  private lookOf({ flags, colours, others }: Layers, row: number): Look {
    const has = flags[row]!;
    const outside = this.isolating && !(has & ISOLATED);
    if (has & HIDDEN || (outside && this.isolating === 'hidden')) return 'hidden';
    if (has & SELECTED) return 'selected';
    const other = others.size ? others.get(row) : undefined;
    if (other !== undefined) return other;
    if (has & GHOST || outside) return 'ghost';
    return colours?.[row] ? colours[row]! - COLOURED : 'own';
  }
}
