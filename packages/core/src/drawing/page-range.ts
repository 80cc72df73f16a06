/** Pages as people write them: “1-3, 7”. */

/** In order, each once, of a file with `count` pages; undefined where something else is written, or nothing of it is there. */
export function readPages(text: string, count: number): number[] | undefined {
  const parts = text.split(/[,;\s]+/).filter(Boolean);
  const pages = new Set<number>();
  for (const part of parts) {
    const [, first, last = first] = /^(\d{1,6})(?:[-–](\d{1,6}))?$/.exec(part) ?? [];
    if (first === undefined) return undefined;
    const [from, to] = [Number(first), Math.min(count, Number(last))];
    for (let page = Math.max(1, from); page <= to; page++) pages.add(page);
  }
  return pages.size ? [...pages].sort((a, b) => a - b) : undefined;
}
