/** Reads what a page draws from the list of operators that pdf.js makes of it. */
import type { TextItem } from '../page-text.ts';
import { boxOf, clipRing, clipSegment, contains, intersect, isEmpty, NOTHING, type Box } from './clip.ts';
import { circleOf, flattenCubic, type Cubic } from './curves.ts';
import { apply, multiply, scaleOf, type Matrix } from './matrix.ts';
import { VectorColumns, type SheetVectors, type VectorStyle, type VectorText } from './sheet-vectors.ts';

/** As much of a page of pdf.js as its vectors take. */
export interface PdfDrawnPage {
  getViewport(options: { scale: number }): { width: number; height: number; transform: number[] };
  getOperatorList(options: { annotationMode: number }): Promise<{ fnArray: number[]; argsArray: unknown[] }>;
}
/** Numbers of the operators, as pdf.js has them. */
export type Operators = Readonly<Record<string, number>>;

/** pdf.js: markups that are in the file already are not part of the drawing. */
const WITHOUT_ANNOTATIONS = 0;
/** What a path is made of, in the numbers that pdf.js writes. */
const [MOVE, LINE, CUBIC, QUADRATIC, CLOSE] = [0, 1, 2, 3, 4];
const VALUES = [2, 2, 6, 4, 0];

interface State {
  map: Matrix;
  clip: Box;
  width: number;
  dash: readonly number[];
  lineColour: string;
  areaColour: string;
  lineSeen: boolean;
  areaSeen: boolean;
}

/** `items`: the text content of the page. */
export async function readVectors(
  page: PdfDrawnPage,
  operators: Operators,
  items: readonly unknown[],
): Promise<SheetVectors> {
  const { width, height, transform } = page.getViewport({ scale: 1 });
  const view = transform as unknown as Matrix;
  const { fnArray, argsArray } = await page.getOperatorList({ annotationMode: WITHOUT_ANNOTATIONS });
  const reader = new Reader(view, [0, 0, width, height]);
  const acts = actsOf(operators);
  for (let i = 0; i < fnArray.length; i++) acts[fnArray[i]!]?.(reader, (argsArray[i] ?? []) as never);
  return { width, height, ...reader.result(), texts: readTexts(items as TextItem[], view) };
}

/** Words with their place on the page as it is displayed. */
export function readTexts(items: readonly TextItem[], view: Matrix): VectorText[] {
  return items.flatMap(({ str, transform, width, height }) => {
    if (!str?.trim()) return [];
    const [a, b, , , x, y] = multiply(view, transform);
    const unit = scaleOf(view);
    const size = (height || Math.hypot(transform[2]!, transform[3]!)) * unit;
    return [{ text: str, x, y, width: width * unit, size, angle: Math.atan2(b, a) }];
  });
}

interface Group {
  smask?: unknown;
  bbox?: number[] | null;
  matrix?: number[] | null;
}
/** A picture with its own map. */
interface Mapped {
  transform: number[];
}
/** Each knows what its operator brings along. */
type Act = (reader: Reader, args: never) => void;

/** What each operator does, by its number. */
function actsOf(ops: Operators): (Act | undefined)[] {
  const acts: Record<string, Act> = {
    save: (reader) => reader.save(),
    restore: (reader) => reader.restore(),
    transform: (reader, map: number[]) => reader.transform(map),
    setLineWidth: (reader, [width]: [number]) => reader.set({ width }),
    setDash: (reader, [dash]: [number[]]) => reader.set({ dash }),
    setGState: (reader, [values]: [[string, unknown][]]) => reader.setGraphics(values),
    setStrokeRGBColor: (reader, [colour]: [string]) => reader.set({ lineColour: colour }),
    setFillRGBColor: (reader, [colour]: [string]) => reader.set({ areaColour: colour }),
    setStrokeColorN: (reader) => reader.set({ lineColour: 'pattern' }),
    setFillColorN: (reader) => reader.set({ areaColour: 'pattern' }),
    clip: (reader) => reader.clipNext(),
    eoClip: (reader) => reader.clipNext(),
    beginMarkedContent: (reader) => reader.openLayer(null),
    beginMarkedContentProps: (reader, [, content]: [string, { id?: string } | null]) => reader.openLayer(content),
    endMarkedContent: (reader) => reader.closeLayer(),
    paintFormXObjectBegin(reader, [map, box]: [number[] | null, number[] | null]) {
      reader.save();
      if (map) reader.transform(map);
      reader.clipTo(box);
    },
    paintFormXObjectEnd: (reader) => reader.restore(),
    beginGroup: (reader, [group]: [Group]) => reader.openGroup(group),
    endGroup: (reader) => reader.closeGroup(),
  };
  const lines = new Set([
    'stroke',
    'closeStroke',
    'fillStroke',
    'eoFillStroke',
    'closeFillStroke',
    'closeEOFillStroke',
  ]);
  const areas = new Set(['fill', 'eoFill', 'fillStroke', 'eoFillStroke', 'closeFillStroke', 'closeEOFillStroke']);
  const numbers = (names: Set<string>) => new Set([...names].map((name) => ops[name]));
  const [lineNumbers, areaNumbers] = [numbers(lines), numbers(areas)];
  acts.constructPath = (reader, [op, [path]]: [number, [number[] | null]]) =>
    reader.path(path, { line: lineNumbers.has(op), area: areaNumbers.has(op) });
  const picture: Act = (reader) => reader.picture();
  for (const name of [
    'paintImageXObject',
    'paintInlineImageXObject',
    'paintImageMaskXObject',
    'paintSolidColorImageMask',
    'shadingFill',
  ])
    acts[name] = picture;
  acts.paintImageXObjectRepeat = (reader, [, x, y, places]: [string, number, number, number[]]) =>
    reader.pictures([x, 0, 0, y], places);
  acts.paintImageMaskXObjectRepeat = (
    reader,
    [, a, b, c, d, places]: [unknown, number, number, number, number, number[]],
  ) => reader.pictures([a, b, c, d], places);
  acts.paintImageMaskXObjectGroup = (reader, [images]: [Mapped[]]) => reader.mapped(images);
  acts.paintInlineImageXObjectGroup = (reader, [, maps]: [unknown, Mapped[]]) => reader.mapped(maps);
  const byNumber: (Act | undefined)[] = [];
  for (const [name, act] of Object.entries(acts)) if (ops[name] !== undefined) byNumber[ops[name]] = act;
  return byNumber;
}

class Reader {
  private state: State;
  private readonly saved: State[] = [];
  private readonly layers: string[] = [];
  private readonly styles: VectorStyle[] = [];
  private readonly styleNumbers = new Map<string, number>();
  private readonly columns = new VectorColumns();
  private readonly placed: Matrix[] = [];
  private clips = false;
  /** Groups that are masks draw nothing: how deep one is in them. */
  private masked = 0;
  private readonly groups: boolean[] = [];
  /** The path that is drawn now: subpaths of x, y pairs on the page. */
  private readonly subpaths: { points: number[]; closed: boolean }[] = [];
  private readonly circles: { x: number; y: number; radius: number; subpath: number }[] = [];

  constructor(view: Matrix, page: Box) {
    const colours = { lineColour: '#000000', areaColour: '#000000', lineSeen: true, areaSeen: true };
    this.state = { map: view, clip: page, width: 1, dash: [], ...colours };
  }

  result(): Omit<SheetVectors, 'width' | 'height' | 'texts'> {
    return { styles: this.styles, pictures: this.placed, ...this.columns.columns() };
  }

  save(): void {
    this.saved.push(this.state);
  }
  restore(): void {
    this.state = this.saved.pop() ?? this.state;
  }
  set(values: Partial<State>): void {
    this.state = { ...this.state, ...values };
  }
  transform(inner: ArrayLike<number>): void {
    this.set({ map: multiply(this.state.map, inner) });
  }
  clipNext(): void {
    this.clips = true;
  }
  clipTo(box: ArrayLike<number> | null | undefined): void {
    if (!box) return;
    const [x0, y0, x1, y1] = [box[0]!, box[1]!, box[2]!, box[3]!];
    const corners = [x0, y0, x1, y0, x1, y1, x0, y1];
    const points: number[] = [];
    for (let i = 0; i < 8; i += 2) points.push(...apply(this.state.map, corners[i]!, corners[i + 1]!));
    this.set({ clip: intersect(this.state.clip, boxOf(points, 0, 4)) });
  }
  setGraphics(values: readonly [string, unknown][]): void {
    for (const [key, value] of values)
      if (key === 'LW') this.set({ width: value as number });
      else if (key === 'D') this.set({ dash: (value as [number[]])[0] });
      else if (key === 'CA') this.set({ lineSeen: (value as number) > 0 });
      else if (key === 'ca') this.set({ areaSeen: (value as number) > 0 });
  }

  openLayer(content: { id?: string } | null | undefined): void {
    this.layers.push(content?.id ?? this.layers.at(-1) ?? '');
  }
  closeLayer(): void {
    this.layers.pop();
  }
  openGroup({ smask, bbox, matrix }: Group): void {
    this.save();
    const outer = this.state.map;
    if (matrix) this.transform(matrix);
    this.clipTo(bbox);
    this.set({ map: outer });
    this.groups.push(Boolean(smask));
    if (smask) this.masked++;
  }
  closeGroup(): void {
    this.restore();
    if (this.groups.pop()) this.masked--;
  }

  picture(map: Matrix = this.state.map): void {
    if (!this.masked && !isEmpty(this.state.clip)) this.placed.push(map);
  }
  pictures([a, b, c, d]: [number, number, number, number], places: ArrayLike<number>): void {
    for (let i = 0; i + 1 < places.length; i += 2)
      this.picture(multiply(this.state.map, [a, b, c, d, places[i]!, places[i + 1]!]));
  }
  mapped(images: readonly Mapped[]): void {
    for (const { transform } of images) this.picture(multiply(this.state.map, transform));
  }

  path(data: ArrayLike<number> | null, { line, area }: { line: boolean; area: boolean }): void {
    this.trace(data ?? []);
    if (!this.masked && !isEmpty(this.state.clip)) {
      if (area && this.state.areaSeen) this.areas();
      if (line && this.state.lineSeen) this.lines();
    }
    if (!this.clips) return;
    this.clips = false;
    const around = this.subpaths.reduce<Box>((box, { points }) => {
      const own = boxOf(points, 0, points.length / 2);
      return [Math.min(box[0], own[0]), Math.min(box[1], own[1]), Math.max(box[2], own[2]), Math.max(box[3], own[3])];
    }, NOTHING);
    this.set({ clip: intersect(this.state.clip, around) });
  }

  /** The path as subpaths on the page, curves flattened. */
  private trace(data: ArrayLike<number>): void {
    this.subpaths.length = this.circles.length = 0;
    const { map } = this.state;
    let points: number[] = [];
    let [x, y] = [0, 0];
    const begin = (atX: number, atY: number): void => {
      points = [atX, atY];
      this.subpaths.push({ points, closed: false });
    };
    const curve = (cubic: Cubic): void => {
      const circle = circleOf(cubic);
      if (circle) this.circles.push({ ...circle, subpath: this.subpaths.length - 1 });
      flattenCubic(cubic, (px, py) => points.push(px, py));
    };
    for (let i = 0; i < data.length;) {
      const what = data[i]!;
      const count = VALUES[what];
      // Whatever comes after a number that means nothing is not known either.
      if (count === undefined) return;
      const at = (n: number): [number, number] => apply(map, data[i + 1 + 2 * n]!, data[i + 2 + 2 * n]!);
      if (what === MOVE) {
        [x, y] = at(0);
        begin(x, y);
      } else if (what === CLOSE) {
        const last = this.subpaths.at(-1);
        if (last) {
          last.closed = true;
          // What is drawn next without a move begins where this one began.
          [x, y] = [last.points[0]!, last.points[1]!];
        }
      } else {
        if (!this.subpaths.length || this.subpaths.at(-1)!.closed) begin(x, y);
        const [from, a, b, c] = [[x, y] as const, at(0), what === LINE ? null : at(1), what === CUBIC ? at(2) : null];
        if (what === LINE) points.push(...a);
        else if (what === CUBIC) curve([...from, ...a, ...b!, ...c!]);
        else if (what === QUADRATIC) {
          const third = (end: readonly number[], k: 0 | 1): number => end[k]! + (2 / 3) * (a[k] - end[k]!);
          curve([...from, third(from, 0), third(from, 1), third(b!, 0), third(b!, 1), ...b!]);
        }
        [x, y] = [points[points.length - 2]!, points[points.length - 1]!];
      }
      i += 1 + count;
    }
  }

  private areas(): void {
    const { clip, areaColour } = this.state;
    const style = this.style({ kind: 'area', colour: areaColour, width: 0, dash: [] });
    for (const { points } of this.subpaths) {
      const box = boxOf(points, 0, points.length / 2);
      if (isEmpty(intersect(clip, box))) continue;
      const inside = contains(clip, box) ? points : clipRing(points, clip);
      for (let i = 0; i < inside.length; i += 2) this.columns.add(inside[i]!, inside[i + 1]!);
      this.columns.end(style);
    }
  }

  private lines(): void {
    const { clip, lineColour, width, dash, map } = this.state;
    const unit = scaleOf(map);
    const style = this.style({
      kind: 'line',
      colour: lineColour,
      width: width * unit,
      dash: dash.map((length) => length * unit),
    });
    for (const [i, { points, closed }] of this.subpaths.entries()) {
      const box = boxOf(points, 0, points.length / 2);
      if (isEmpty(intersect(clip, box))) continue;
      if (contains(clip, box)) {
        for (let k = 0; k < points.length; k += 2) this.columns.add(points[k]!, points[k + 1]!);
        if (closed) this.columns.add(points[0]!, points[1]!);
        for (const { x, y, radius, subpath } of this.circles) if (subpath === i) this.columns.circle(x, y, radius);
        this.columns.end(style);
      } else this.cutLine(points, closed, style);
    }
  }

  /** A line that leaves the clip becomes several. */
  private cutLine(points: readonly number[], closed: boolean, style: number): void {
    const n = points.length / 2;
    for (let i = 0; i + 1 < n + Number(closed); i++) {
      const j = (i + 1) % n;
      const [x0, y0, x1, y1] = [points[2 * i]!, points[2 * i + 1]!, points[2 * j]!, points[2 * j + 1]!];
      const part = clipSegment(x0, y0, x1, y1, this.state.clip);
      if (!part) {
        this.columns.end(style);
        continue;
      }
      const [enter, leave] = part;
      if (enter > 0) this.columns.end(style);
      if (!this.columns.length) this.columns.add(x0 + enter * (x1 - x0), y0 + enter * (y1 - y0));
      this.columns.add(x0 + leave * (x1 - x0), y0 + leave * (y1 - y0));
      if (leave < 1) this.columns.end(style);
    }
    this.columns.end(style);
  }

  private style(style: Omit<VectorStyle, 'layer'>): number {
    const layer = this.layers.at(-1) ?? '';
    const key = `${style.kind} ${style.colour} ${style.width.toFixed(3)} ${style.dash.map((one) => one.toFixed(2)).join()} ${layer}`;
    let number = this.styleNumbers.get(key);
    if (number === undefined) {
      number = this.styles.push({ ...style, layer }) - 1;
      this.styleNumbers.set(key, number);
    }
    return number;
  }
}
