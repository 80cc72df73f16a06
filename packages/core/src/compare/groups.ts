/** Which of many things belong together. */
export class Groups {
  private readonly parent: Uint32Array;

  constructor(count: number) {
    this.parent = Uint32Array.from({ length: count }, (_, i) => i);
  }

  root(i: number): number {
    while (this.parent[i] !== i) i = this.parent[i] = this.parent[this.parent[i]!]!;
    return i;
  }
  join(a: number, b: number): void {
    const [p, q] = [this.root(a), this.root(b)];
    // The lower number leads: the order of the groups is that of what is in them.
    if (p < q) this.parent[q] = p;
    else this.parent[p] = q;
  }
  list(): number[][] {
    const groups = new Map<number, number[]>();
    for (let i = 0; i < this.parent.length; i++) {
      const known = groups.get(this.root(i));
      if (known) known.push(i);
      else groups.set(this.root(i), [i]);
    }
    return [...groups.values()];
  }
}
