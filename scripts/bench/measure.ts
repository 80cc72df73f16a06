/** Runs two things in turn, A B A B …, and answers the median of the ratios of their times. */
export async function ratio(
  ours: () => Promise<number>,
  baseline: () => Promise<number>,
  rounds: number,
): Promise<{ ours: number; baseline: number; ratio: number }> {
  const pairs: [number, number][] = [];
  await ours();
  await baseline();
  for (let i = 0; i < rounds; i++) pairs.push([await ours(), await baseline()]);
  const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
  return {
    ours: median(pairs.map(([a]) => a)),
    baseline: median(pairs.map(([, b]) => b)),
    ratio: median(pairs.map(([a, b]) => a / b)),
  };
}

/**
 * For things of a few milliseconds: each once in turn, A B A B …, and the ratio of the medians. What else the machine does
 * for a moment hits both alike. The first fifth is left out: by then both have compiled what they run.
 */
export async function alternating(
  ours: () => Promise<unknown>,
  baseline: () => Promise<unknown>,
  rounds: number,
): Promise<{ ours: number; baseline: number; ratio: number }> {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < rounds; i++)
    for (const [k, run] of [ours, baseline].entries()) {
      const time = await timed(run);
      if (i > rounds / 5) times[k]!.push(time);
    }
  const [a, b] = times.map((values) => values.sort((x, y) => x - y)[values.length >> 1]!) as [number, number];
  return { ours: a, baseline: b, ratio: a / b };
}

export async function timed(run: () => unknown): Promise<number> {
  const start = performance.now();
  await run();
  return performance.now() - start;
}

/** A row of the report; says whether the ratio keeps its promise. */
export function report(
  title: string,
  measured: { ours: number; baseline: number; ratio: number },
  promise: { atMost: number } | { atLeast: number },
): void {
  const [kept, limit] =
    'atMost' in promise
      ? [measured.ratio <= promise.atMost, `at most ${promise.atMost}`]
      : [measured.ratio >= promise.atLeast, `at least ${promise.atLeast}`];
  const figure = (value: number): string => (value >= 100 ? value.toFixed(0) : value.toFixed(2));
  console.log(
    `${kept ? 'kept  ' : 'BROKEN'} ${measured.ratio.toFixed(2).padStart(6)} (${limit})  ${title}: ${figure(measured.ours)} against ${figure(measured.baseline)}`,
  );
}
