/** How fast one person may ask one node: a bucket of tries that fills again, kept in memory, so that asking costs nothing. */
interface Bucket {
  left: number;
  at: number;
}

/** So many keys are remembered at most; those that are full again are forgotten first. */
const MOST_KEYS = 50_000;

export class Pace {
  private readonly buckets = new Map<string, Bucket>();

  /** `burst`: tries at once; `perSecond`: how many come back each second. Both 0: no limit. */
  constructor(
    private readonly burst: number,
    private readonly perSecond: number,
  ) {}

  /** Takes a try; false when there is none. `now`: milliseconds. */
  take(key: string, now = Date.now()): boolean {
    if (!this.burst) return true;
    const bucket = this.filled(key, now);
    if (bucket.left < 1) return false;
    bucket.left--;
    return true;
  }

  /** Whether there is a try left, without taking it. */
  has(key: string, now = Date.now()): boolean {
    return !this.burst || !this.buckets.has(key) || this.filled(key, now).left >= 1;
  }

  private filled(key: string, now: number): Bucket {
    let bucket = this.buckets.get(key);
    if (!bucket) {
      if (this.buckets.size >= MOST_KEYS) this.forget(now);
      this.buckets.set(key, (bucket = { left: this.burst, at: now }));
    }
    bucket.left = Math.min(this.burst, bucket.left + ((now - bucket.at) / 1000) * this.perSecond);
    bucket.at = now;
    return bucket;
  }

  private forget(now: number): void {
    for (const [key, { left, at }] of this.buckets)
      if (left + ((now - at) / 1000) * this.perSecond >= this.burst) this.buckets.delete(key);
  }
}
