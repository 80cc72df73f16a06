/** Markups of a page on a canvas over it: drawn, chosen, taken hold of. Knows the page, not where markups come from. */
import { boundsOf, turned } from '@kindred/core/markup/arrange';
import type { CalloutTag } from '@kindred/core/markup/callouts';
import { figureOf, LINE_HEIGHT, type Figure, type Piece } from '@kindred/core/markup/figures';
import {
  handlesOf,
  shapeBounds,
  withHandleAt,
  type Box,
  type MarkupShape,
  type MarkupStyle,
  type Point,
} from '@kindred/core/markup/shapes';
import Konva from 'konva';

/** A markup as it is drawn. */
export interface Mark {
  id: string;
  shape: MarkupShape;
  style: MarkupStyle;
  /** Of its status, where its style names none. */
  colour: string;
  text: string;
  /** What stands on its tag; empty for none. */
  tag: string;
  tagShape: CalloutTag;
  draft: boolean;
  /** May be moved and reshaped. */
  movable: boolean;
  /** Address of its picture; empty for none. */
  picture: string;
}
export interface Pin {
  id: string;
  kind: 'issue' | 'viewpoint';
  number: number;
  x: number;
  y: number;
}

export interface StageEvents {
  choose(ids: string[], more: boolean): void;
  reshaped(id: string, shape: MarkupShape): void;
  movedBy(ids: string[], dx: number, dy: number): void;
  /** All that are chosen, with the clock, radians. */
  turned(angle: number): void;
  pin(id: string): void;
}

/** A markup with what draws it. */
interface Drawn {
  mark: Mark;
  node: Konva.Group;
  /** On the page, without its tag and words. */
  bounds: Box;
  /** The unit that it was drawn for. */
  unit: number;
}

/** More marks than that take longer to draw than a movement may wait. */
const MOST_AT_ONCE = 60;
/** A movement has ended when nothing came for that long, or for so many times as long as drawing takes. */
const [SETTLE_MS, SETTLE_DRAWS] = [120, 3];
/** Tags and words may stand so far out of a shape, pixels. */
const TAG_SIZE = 60;
const FONT = '"Archivo Variable", sans-serif';
const PIN_COLOURS = { issue: '#6B3F69', viewpoint: '#1D5B79' };
const CHOSEN = '#14706A';
/** Within so many pixels a line is hit. */
const HIT = 10;
/** The handle for turning stands so far over what is chosen, pixels; with Shift it goes in steps, radians. */
const TURN_ASIDE = 26;
const TURN_STEP = Math.PI / 12;
/** Of a highlighter, points on paper. */
const HIGHLIGHT = 12;

export class MarkupStage {
  private readonly stage: Konva.Stage;
  private readonly marks = new Konva.Layer();
  private readonly above = new Konva.Layer();
  private readonly pinned = new Konva.Group();
  private readonly nodes = new Map<string, Drawn>();
  private chosen: readonly string[] = [];
  private matrix: readonly number[] = [1, 0, 0, 1, 0, 0];
  private unit = 1;
  private live = true;
  /** The view in which the marks were drawn last. */
  private drawnIn: readonly number[] | undefined;
  private settling = 0;
  private drawingTook = 0;
  private pins: readonly Pin[] = [];
  private found: Box | undefined;
  private readonly pictures = new Map<string, Promise<HTMLImageElement | undefined>>();

  constructor(
    container: HTMLDivElement,
    private readonly events: StageEvents,
  ) {
    this.stage = new Konva.Stage({ container, width: 1, height: 1 });
    this.stage.add(this.marks, this.above);
    this.marks.add(this.pinned);
    let began = 0;
    this.marks.on('beforeDraw', () => void (began = performance.now()));
    this.marks.on('draw', () => void (this.drawingTook = performance.now() - began));
  }

  /** As it stands, one pixel for each of its own. */
  toCanvas(): HTMLCanvasElement {
    return this.stage.toCanvas({ pixelRatio: 1 });
  }

  destroy(): void {
    clearTimeout(this.settling);
    this.stage.destroy();
  }

  /** Whether marks answer to the pointer, or let it through to what is drawn under them. */
  setLive(live: boolean): void {
    if (live === this.live) return;
    this.live = live;
    this.marks.listening(live);
    // While it did not listen, nothing was written of where marks can be hit.
    if (live) this.marks.drawHit();
  }

  /** `matrix`: from the page to the window; `zoom`: pixels a point. */
  setView(matrix: readonly number[], zoom: number, [width, height]: readonly [number, number]): void {
    this.stage.size({ width, height });
    this.matrix = matrix;
    place(this.above, matrix, zoom);
    // Sizes grow in steps: most movements draw what is there already.
    const unit = 2 ** (Math.round(2 * Math.log2(Math.max(1 / zoom, 1 / 16))) / 2);
    if (unit !== this.unit) {
      this.unit = unit;
      this.setPins(this.pins);
      this.setFound(this.found);
      this.showHandles();
    }
    const shown = [...this.nodes.values()].filter((one) => this.isInWindow(one)).length;
    clearTimeout(this.settling);
    if (shown <= MOST_AT_ONCE || !this.drawnIn) return this.drawMarks();
    // Of very many the picture that is there moves along; it is drawn anew when the movement ends.
    this.marks.getNativeCanvasElement().style.transform = `matrix(${fromTo(this.drawnIn, matrix).join()})`;
    this.settling = window.setTimeout(() => this.drawMarks(), Math.max(SETTLE_MS, SETTLE_DRAWS * this.drawingTook));
  }

  private isInWindow({ bounds: [x, y, w, h] }: Drawn): boolean {
    const [a, b, c, d, e, f] = this.matrix as [number, number, number, number, number, number];
    const aside = TAG_SIZE * this.unit;
    const xs = [x - aside, x + w + aside];
    const ys = [y - aside, y + h + aside];
    const corners = xs.flatMap((px) => ys.map((py) => [a * px + c * py + e, b * px + d * py + f] as const));
    const beyond = (axis: 0 | 1, length: number): boolean =>
      corners.every((at) => at[axis] < 0) || corners.every((at) => at[axis] > length);
    return !beyond(0, this.stage.width()) && !beyond(1, this.stage.height());
  }

  /** Marks where they belong now; what is out of the window is left out. */
  private drawMarks(): void {
    const canvas = this.marks.getNativeCanvasElement();
    canvas.style.transformOrigin = '0 0';
    canvas.style.transform = '';
    this.drawnIn = this.matrix;
    place(this.marks, this.matrix, 1 / this.pixel);
    for (const one of [...this.nodes.values()]) {
      const shown = this.isInWindow(one);
      if (shown && one.unit !== this.unit) this.put(one.mark);
      else one.node.visible(shown);
    }
  }

  setMarks(marks: readonly Mark[]): void {
    const wanted = new Set(marks.map(({ id }) => id));
    for (const [id, { node }] of this.nodes)
      if (!wanted.has(id)) {
        node.destroy();
        this.nodes.delete(id);
      }
    for (const mark of marks)
      if (JSON.stringify(this.nodes.get(mark.id)?.mark) !== JSON.stringify(mark)) this.put(mark);
    this.sort();
    this.showHandles();
  }

  /** Some lie over others; pins over all. */
  private sort(): void {
    const all = [...this.nodes.values()];
    if (all.some(({ mark }) => mark.style.order)) {
      all.sort((a, b) => (a.mark.style.order ?? 0) - (b.mark.style.order ?? 0));
      for (const { node } of all) node.moveToTop();
    }
    this.pinned.moveToTop();
  }

  setPins(pins: readonly Pin[]): void {
    this.pins = pins;
    this.pinned.destroyChildren();
    for (const { id, kind, number, x, y } of pins) {
      const fill = PIN_COLOURS[kind];
      const scale = this.unit;
      const pin = new Konva.Group({ x, y, scaleX: scale, scaleY: scale });
      pin.add(
        new Konva.Line({ points: [0, 0, -9, -16, 9, -16], closed: true, fill }),
        new Konva.Rect({ x: -15, y: -33, width: 30, height: 17, fill }),
        label(kind === 'viewpoint' ? `V${number}` : String(number), -15, -30, 30, '#fff'),
      );
      pin.on('pointerdown', (event) => {
        event.cancelBubble = true;
        this.events.pin(id);
      });
      this.pinned.add(pin);
    }
  }

  setChosen(ids: readonly string[]): void {
    const before = this.chosen;
    this.chosen = ids;
    for (const id of [...before, ...ids]) {
      const known = this.nodes.get(id);
      known?.node.draggable(known.mark.movable && ids.includes(id));
    }
    this.showHandles();
  }

  /** A place that was looked for. */
  setFound(box: Box | undefined): void {
    this.found = box;
    this.above.find('.found').forEach((node) => node.destroy());
    if (!box) return;
    const aside = 3 * this.unit;
    const [x, y, width, height] = [box[0] - aside, box[1] - aside, box[2] + 2 * aside, box[3] + 2 * aside];
    const look = { stroke: CHOSEN, strokeWidth: 2 * this.unit, fill: `${CHOSEN}22`, listening: false };
    this.above.add(new Konva.Rect({ name: 'found', x, y, width, height, ...look }));
  }

  /** What is being drawn, and where the pointer was caught. */
  setGrowing(
    shape: MarkupShape | undefined,
    text: string,
    caught: { x: number; y: number; word: string } | undefined,
  ): void {
    this.above.find('.growing').forEach((node) => node.destroy());
    if (shape) {
      const style: MarkupStyle = {};
      const mark = {
        id: '',
        shape,
        style,
        colour: CHOSEN,
        text,
        tag: '',
        tagShape: 'flag' as const,
        draft: false,
        movable: false,
        picture: '',
      };
      this.above.add(this.draw(mark).name('growing'));
    }
    if (caught) {
      const at = new Konva.Group({ name: 'growing', x: caught.x, y: caught.y, scaleX: this.pixel, scaleY: this.pixel });
      at.add(
        new Konva.Rect({ x: -5, y: -5, width: 10, height: 10, stroke: CHOSEN, strokeWidth: 2 }),
        label(caught.word, 9, -18, 120, CHOSEN, 'left'),
      );
      this.above.add(at);
    }
  }

  /** The marks of which something lies in a box of the page. */
  within([x, y, width, height]: readonly [number, number, number, number]): string[] {
    return [...this.nodes.values()].flatMap(({ mark }) =>
      handlesOf(mark.shape).some(([px, py]) => px >= x && px <= x + width && py >= y && py <= y + height)
        ? [mark.id]
        : [],
    );
  }

  /** Whether something that can be taken hold of is at a point of the window. */
  holds([x, y]: Point): boolean {
    return (
      (this.live && this.marks.getIntersection({ x, y }) !== null) || this.above.getIntersection({ x, y }) !== null
    );
  }

  /** Points of the page for a pixel. */
  private get pixel(): number {
    return 1 / Math.hypot(this.matrix[0]!, this.matrix[1]!);
  }

  private put(mark: Mark): void {
    const before = this.nodes.get(mark.id)?.node;
    const rank = before?.zIndex();
    before?.destroy();
    const node = this.draw(mark);
    node.on('pointerdown', (event) => {
      if (event.evt.button > 0) return;
      this.events.choose([mark.id], event.evt.shiftKey);
    });
    if (mark.movable) {
      node.on('dragend', () => {
        const { x, y } = node.position();
        node.position({ x: 0, y: 0 });
        if (x || y) this.events.movedBy(this.chosen.includes(mark.id) ? [...this.chosen] : [mark.id], x, y);
      });
    }
    this.marks.add(node);
    if (rank !== undefined) node.zIndex(rank);
    node.draggable(mark.movable && this.chosen.includes(mark.id));
    this.nodes.set(mark.id, { mark, node, bounds: shapeBounds(mark.shape), unit: this.unit });
  }

  private draw(mark: Mark): Konva.Group {
    const { shape, style, colour, text, tag, draft } = mark;
    const group = new Konva.Group({ id: mark.id, name: 'mark', opacity: style.opacity ?? 1 });
    const figure = figureOf(shape, mark.picture ? '' : text, this.unit);
    const paint = style.colour ?? colour;
    const highlights = shape.kind === 'highlighter';
    const width = style.width ?? (highlights ? HIGHLIGHT : 1.6 * this.unit);
    for (const { pieces, line, area } of figure.paths) {
      const tinted = area === 'tint' && style.filled !== false;
      group.add(
        new Konva.Shape({
          sceneFunc: (context, node) => {
            trace(context, pieces);
            context.fillStrokeShape(node);
          },
          ...(line && { stroke: paint, strokeWidth: width }),
          ...(draft && line && { dash: [7 * this.unit, 4 * this.unit] }),
          ...(area === 'solid' && { fill: paint }),
          ...(area === 'paper' && { fill: 'rgba(255,255,255,0.94)' }),
          ...(tinted && { fill: `${paint}12` }),
          opacity: highlights ? 0.35 : 1,
          fillRule: 'evenodd',
          hitStrokeWidth: Math.max(width, HIT * this.unit),
        }),
      );
    }
    if (mark.picture && figure.picture) this.addPicture(group, mark.picture, figure.picture);
    addWords(group, figure, shape.kind === 'text' || shape.kind === 'stamp' ? paint : '#1D2A2F');
    if (tag) {
      const [x, y] = handlesOf(shape).reduce((best, point) => (point[1] < best[1] ? point : best));
      const flag = new Konva.Group({ x, y, scaleX: this.unit, scaleY: this.unit });
      flag.add(TAGS[mark.tagShape](paint), label(tag, 0, -14, 34, '#fff'));
      group.add(flag);
    }
    return group;
  }

  /** As large as it goes into its box; drawn when it has come. */
  private addPicture(group: Konva.Group, address: string, [x, y, width, height]: Box): void {
    void this.pictureAt(address).then((image) => {
      if (!image || !group.getLayer()) return;
      const scale = Math.min(width / image.width, height / image.height);
      const [w, h] = [image.width * scale, image.height * scale];
      const at = { x: x + (width - w) / 2, y: y + (height - h) / 2, width: w, height: h };
      group.add(new Konva.Image({ image, ...at }));
    });
  }

  /** Each picture is fetched once; undefined where it cannot be shown. */
  private pictureAt(address: string): Promise<HTMLImageElement | undefined> {
    let picture = this.pictures.get(address);
    if (!picture) {
      picture = new Promise((resolve) => {
        const image = new Image();
        image.onload = () => resolve(image);
        image.onerror = () => resolve(undefined);
        image.src = address;
      });
      this.pictures.set(address, picture);
    }
    return picture;
  }

  /** The points of what is chosen can be drawn about; one of several is moved with the others. */
  private showHandles(): void {
    this.above.find('.handle').forEach((node) => node.destroy());
    for (const id of this.chosen) {
      const mark = this.nodes.get(id)?.mark;
      if (!mark) continue;
      const [x, y, width, height] = shapeBounds(mark.shape);
      const aside = 4 * this.pixel;
      this.above.add(
        new Konva.Rect({
          ...{ x: x - aside, y: y - aside, width: width + 2 * aside, height: height + 2 * aside },
          name: 'handle',
          stroke: CHOSEN,
          strokeWidth: this.pixel,
          dash: [4 * this.pixel, 3 * this.pixel],
          listening: false,
        }),
      );
      if (mark.movable && this.chosen.length === 1 && mark.shape.kind !== 'freehand') this.addHandles(mark);
    }
    this.addTurnHandle();
  }

  /** Over what is chosen: drawn around, it turns all of it about its middle. */
  private addTurnHandle(): void {
    const marks = this.chosen.flatMap((id) => this.nodes.get(id)?.mark ?? []).filter(({ movable }) => movable);
    if (!marks.length || (marks.length === 1 && 'box' in marks[0]!.shape)) return;
    const [left, top, width, height] = boundsOf(marks.map(({ shape }) => shape));
    const [mx, my] = [left + width / 2, top + height / 2];
    const at: Point = [mx, top - TURN_ASIDE * this.pixel];
    const look = { name: 'handle', stroke: CHOSEN, strokeWidth: 1.5 * this.pixel };
    const handle = new Konva.RegularPolygon({
      ...{ ...look, name: 'handle turn', x: at[0], y: at[1], sides: 4, radius: 7 * this.pixel, fill: '#fff' },
      draggable: true,
      hitStrokeWidth: 12 * this.pixel,
    });
    let angle = 0;
    handle.on('dragmove', ({ evt }) => {
      const free = Math.atan2(handle.x() - mx, my - handle.y());
      angle = evt.shiftKey ? Math.round(free / TURN_STEP) * TURN_STEP : free;
      const shapes = turned(
        marks.map(({ shape }) => shape),
        angle,
      );
      marks.forEach((mark, i) => this.put({ ...mark, shape: shapes[i]! }));
    });
    handle.on('dragend', () => this.events.turned(angle));
    this.above.add(
      new Konva.Line({ ...look, points: [mx, top - 4 * this.pixel, at[0], at[1]], listening: false }),
      handle,
    );
  }

  private addHandles(mark: Mark): void {
    for (const [i, [x, y]] of handlesOf(mark.shape).entries()) {
      const size = 5 * this.pixel;
      const handle = new Konva.Circle({
        ...{ name: 'handle', x, y, radius: size, fill: '#fff', stroke: CHOSEN },
        strokeWidth: 1.5 * this.pixel,
        draggable: true,
        hitStrokeWidth: 12 * this.pixel,
      });
      const now = (): MarkupShape => withHandleAt(mark.shape, i, [handle.x(), handle.y()]);
      handle.on('dragmove', () => this.setGrowing(now(), mark.text, undefined));
      handle.on('dragend', () => {
        this.setGrowing(undefined, '', undefined);
        this.events.reshaped(mark.id, now());
      });
      this.above.add(handle);
    }
  }
}

function place(layer: Konva.Layer, matrix: readonly number[], zoom: number): void {
  const rotation = (Math.atan2(matrix[1]!, matrix[0]!) * 180) / Math.PI;
  layer.setAttrs({ x: matrix[4], y: matrix[5], scaleX: zoom, scaleY: zoom, rotation });
}

/** The map that takes what was seen through one view to where it is seen through another. */
function fromTo(from: readonly number[], to: readonly number[]): number[] {
  const [a, b, c, d, e, f] = from as [number, number, number, number, number, number];
  const [A, B, C, D, E, F] = to as [number, number, number, number, number, number];
  const size = a * d - b * c;
  const [ia, ib, ic, id] = [d / size, -b / size, -c / size, a / size];
  const [x, y] = [-(ia * e + ic * f), -(ib * e + id * f)];
  return [A * ia + C * ib, B * ia + D * ib, A * ic + C * id, B * ic + D * id, A * x + C * y + E, B * x + D * y + F];
}

const TAGS: Record<CalloutTag, (fill: string) => Konva.Shape> = {
  flag: (fill) => new Konva.Rect({ y: -17, width: 34, height: 17, fill }),
  disc: (fill) => new Konva.Circle({ x: 17, y: -9, radius: 15, fill }),
  lozenge: (fill) => new Konva.Line({ points: [-6, -9, 17, -25, 40, -9, 17, 7], closed: true, fill }),
};

function label(
  text: string,
  x: number,
  y: number,
  width: number,
  fill: string,
  align: 'left' | 'center' = 'center',
): Konva.Text {
  return new Konva.Text({ text, x, y, width, align, fill, fontFamily: FONT, fontSize: 11, fontStyle: '600' });
}

function addWords(group: Konva.Group, { words }: Figure, fill: string): void {
  if (!words) return;
  const { lines, size, at } = words;
  group.add(
    new Konva.Text({
      text: lines.join('\n'),
      x: at[0],
      y: at[1] - size * 0.95,
      ...{ fontFamily: FONT, fontSize: size, lineHeight: LINE_HEIGHT, fill },
    }),
  );
}

function trace(context: Konva.Context, pieces: readonly Piece[]): void {
  context.beginPath();
  for (const piece of pieces)
    if (piece[0] === 'move') context.moveTo(piece[1], piece[2]);
    else if (piece[0] === 'line') context.lineTo(piece[1], piece[2]);
    else if (piece[0] === 'curve') context.bezierCurveTo(piece[1], piece[2], piece[3], piece[4], piece[5], piece[6]);
    else context.closePath();
}
