/** Elements that should have been drawn and were not, each with the reason. */
import type { IfcAPI } from 'web-ifc';

export interface Undrawn {
  globalId: string;
  name: string;
  class: string;
  /**
   * `missing`: its shape refers to an instance that is not in the file (`detail`: its number);
   * `empty`: its shape holds nothing; `lines-only`: it has an axis, a footprint or points, no surface;
   * `not-built`: its surface could not be computed (`detail`: the class of its first item).
   */
  reason: 'missing' | 'empty' | 'lines-only' | 'not-built';
  detail: string;
}

type Api = Pick<IfcAPI, 'GetRawLineData' | 'GetLineType' | 'GetNameFromTypeCode'>;
/** As web-ifc gives arguments of a line: references have the type 5. */
type Raw = null | number | string | { type?: number; value?: unknown } | Raw[];
const REFERENCE = 5;

/** Representation types (RepresentationType of IfcShapeModel) that have no surface. */
const LINES =
  /^(?:Point|PointCloud|Curve|Curve2D|Curve3D|GeometricCurveSet|Annotation2D|BoundingBox|Axis\w*|Segment)$/i;
/** Shapes hold some ten thousand instances at most; what is larger is not looked through to its end. */
const MOST_INSTANCES = 20_000;

export class UndrawnReasons {
  /** Instances whose references are all there. */
  private readonly whole = new Set<number>();
  constructor(
    private readonly api: Api,
    private readonly model: number,
  ) {}

  /** `shape`: the instance number of the element's product definition shape. */
  reasonOf(shape: number): Pick<Undrawn, 'reason' | 'detail'> {
    const missing = this.missingFrom(shape);
    if (missing) return { reason: 'missing', detail: `#${missing}` };
    const representations = this.referencesOf(shape).map((id) => this.arguments(id));
    const withItems = representations.filter(([, , , items]) => referencesIn(items ?? null).length);
    if (!withItems.length) return { reason: 'empty', detail: '' };
    const solid = withItems.find(([, , type]) => !LINES.test(textOf(type)));
    if (!solid) return { reason: 'lines-only', detail: '' };
    return { reason: 'not-built', detail: this.classOf(referencesIn(solid[3]!)[0]!) };
  }

  private missingFrom(start: number): number {
    const open = [start];
    const seen = new Set<number>();
    while (open.length && seen.size < MOST_INSTANCES) {
      const id = open.pop()!;
      if (seen.has(id) || this.whole.has(id)) continue;
      if (!this.api.GetLineType(this.model, id)) return id;
      seen.add(id);
      open.push(...this.referencesOf(id));
    }
    if (!open.length) for (const id of seen) this.whole.add(id);
    return 0;
  }

  private referencesOf = (id: number): number[] => this.arguments(id).flatMap(referencesIn);
  private arguments = (id: number): Raw[] => this.api.GetRawLineData(this.model, id).arguments as Raw[];

  private classOf(id: number): string {
    return this.api.GetNameFromTypeCode(this.api.GetLineType(this.model, id) as number);
  }
}

function referencesIn(raw: Raw): number[] {
  if (Array.isArray(raw)) return raw.flatMap(referencesIn);
  if (!raw || typeof raw !== 'object') return [];
  if (raw.type === REFERENCE) return [Number(raw.value)];
  return Array.isArray(raw.value) ? referencesIn(raw.value as Raw[]) : [];
}

const textOf = (raw: Raw | undefined): string =>
  raw && typeof raw === 'object' && !Array.isArray(raw) && typeof raw.value === 'string' ? raw.value : '';
