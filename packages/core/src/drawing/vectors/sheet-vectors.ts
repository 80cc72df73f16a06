/**
 * What is drawn on a page, as lines, areas, words and pictures: transforms, forms, clips, page rotation and user unit are applied.
 * Everything is in points (1/72 inch) of the page as it is displayed, origin in its upper left corner, y down: the space of markups.
 */
import { grown } from '../../platform/grown.ts';
import type { Matrix } from './matrix.ts';

export interface VectorStyle {
  kind: 'line' | 'area';
  /** `#rrggbb`; `pattern` for hatches and shadings that are no lines. */
  colour: string;
  /** Of lines, points. */
  width: number;
  /** Lengths of strokes and gaps, points; empty for whole lines. */
  dash: readonly number[];
  /** Name of the optional content that it belongs to; empty for none. */
  layer: string;
}

export interface VectorText {
  text: string;
  /** The left end of the base line. */
  x: number;
  y: number;
  /** Along the base line. */
  width: number;
  /** Height of the letters. */
  size: number;
  /** Of the base line, radians with the clock from the right (y down). */
  angle: number;
}

export interface SheetVectors {
  width: number;
  height: number;
  styles: VectorStyle[];
  /** Chain i has the points from `starts[i]` to before `starts[i + 1]`; one entry more than chains. */
  starts: Uint32Array;
  /** Index of the style, by chain. Areas are closed: their last point joins the first. */
  styleOf: Uint32Array;
  /** x, y by point. */
  points: Float32Array;
  /** x, y, radius, chain: circles of which the chain has a piece. */
  circles: Float32Array;
  texts: VectorText[];
  /** Where pictures lie: the map of the unit square. */
  pictures: Matrix[];
  /** The page has more than is kept here. */
  cut: boolean;
}

/** More points on one page than anybody draws: a bound for memory. */
export const MOST_POINTS = 6_000_000;

/** Collects chains into columns. */
export class VectorColumns {
  private points = new Float32Array(4096);
  private starts = new Uint32Array(512);
  private styleOf = new Uint32Array(512);
  private circles = new Float32Array(256);
  private used = 0;
  private chains = 0;
  private circleValues = 0;
  private open = 0;
  cut = false;

  /** Number of points of the chain that is being drawn. */
  get length(): number {
    return this.used - this.open;
  }

  /** What `end` will call the chain that is being drawn. */
  get chain(): number {
    return this.chains;
  }

  add(x: number, y: number): void {
    if (this.used >= MOST_POINTS) {
      this.cut = true;
      return;
    }
    if (2 * this.used + 2 > this.points.length) this.points = grown(this.points);
    this.points[2 * this.used] = x;
    this.points[2 * this.used + 1] = y;
    this.used++;
  }

  circle(x: number, y: number, radius: number): void {
    if (this.circleValues + 4 > this.circles.length) this.circles = grown(this.circles);
    this.circles.set([x, y, radius, this.chains], this.circleValues);
    this.circleValues += 4;
  }

  /** Ends the chain, or forgets it where it is no line. */
  end(style: number): void {
    if (this.length < 2) {
      this.used = this.open;
      while (this.circleValues && this.circles[this.circleValues - 1] === this.chains) this.circleValues -= 4;
      return;
    }
    if (this.chains + 2 > this.starts.length) {
      this.starts = grown(this.starts);
      this.styleOf = grown(this.styleOf);
    }
    this.starts[this.chains] = this.open;
    this.styleOf[this.chains] = style;
    this.open = this.used;
    this.starts[++this.chains] = this.used;
  }

  columns(): Pick<SheetVectors, 'starts' | 'styleOf' | 'points' | 'circles' | 'cut'> {
    return {
      starts: this.starts.slice(0, this.chains + 1),
      styleOf: this.styleOf.slice(0, this.chains),
      points: this.points.slice(0, 2 * this.used),
      circles: this.circles.slice(0, this.circleValues),
      cut: this.cut,
    };
  }
}
