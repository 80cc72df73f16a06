/**
 * How fine is drawn while things move: less where a machine is slow, and again more where it is not. First there are fewer pixels, at last
 * only what is largest of each model.
 */
const LEVELS = [
  { share: 1, detail: true },
  { share: 0.75, detail: true },
  { share: 0.5, detail: true },
  { share: 0.5, detail: false },
] as const;
/** Milliseconds from picture to picture, above which one steps down and below which one steps up again. */
const [TOO_SLOW, FAST_ENOUGH] = [42, 18];
/** So many pictures are looked at before anything changes. */
const LOOKED_AT = 6;

export class Quality {
  private level = 0;
  private readonly times: number[] = [];

  /** Of the full number of pixels on each side. */
  get share(): number {
    return LEVELS[this.level]!.share;
  }
  /** Further parts of models are drawn too. */
  get detail(): boolean {
    return LEVELS[this.level]!.detail;
  }

  /** A picture was drawn while moving, so many milliseconds after the one before. True where that changes how fine one draws. */
  drew(milliseconds: number): boolean {
    this.times.push(milliseconds);
    if (this.times.length < LOOKED_AT) return false;
    const usual = this.times.sort((a, b) => a - b)[LOOKED_AT >> 1]!;
    this.times.length = 0;
    const before = this.level;
    if (usual > TOO_SLOW) this.level = Math.min(LEVELS.length - 1, this.level + 1);
    else if (usual < FAST_ENOUGH) this.level = Math.max(0, this.level - 1);
    return this.level !== before;
  }

  rest(): void {
    this.times.length = 0;
  }
}
