/** Of the models of a viewpoint: which version stands on the left, the earlier one, and which on the right. */
export interface VersionChoice {
  id: string;
  number: number;
  revision: string;
  ready: boolean;
}
export interface VersionPair {
  title: string;
  versions: readonly VersionChoice[];
  left: string;
  right: string;
}

/** `versions`: newest first. What has a newer version is held against the newest, what is the newest against the one before. */
export function pairOf(title: string, versions: readonly VersionChoice[], seen: string): VersionPair {
  const ready = versions.filter((one) => one.ready);
  const newest = ready[0]?.id ?? seen;
  if (seen !== newest) return { title, versions: ready, left: seen, right: newest };
  return { title, versions: ready, left: ready[1]?.id ?? seen, right: seen };
}
