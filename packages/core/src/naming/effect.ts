import { compileConvention, type Convention } from './convention.ts';

export interface Effect {
  /** How many names were looked at. */
  names: number;
  /** Indices of names that conform now and would not any more. */
  stop: number[];
  /** Indices of names that do not conform now and would. */
  start: number[];
}

/** What a change of a convention does to existing names. O(names). */
export function conventionEffect(before: Convention, after: Convention, names: readonly string[]): Effect {
  const [was, will] = [compileConvention(before), compileConvention(after)];
  const effect: Effect = { names: names.length, stop: [], start: [] };
  names.forEach((name, i) => {
    const conforms = will(name);
    if (was(name) !== conforms) (conforms ? effect.start : effect.stop).push(i);
  });
  return effect;
}
