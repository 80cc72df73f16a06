/** What became, on a new version, of what a markup points at. */
export const FATES = ['same', 'moved', 'changed', 'gone'] as const;
export type Fate = (typeof FATES)[number];
