/** Lists that one view hands to another: too long for an address, and still there after a reload of the page. */
const PREFIX = 'handed-over-';

/** Keeps a list in this window; answers the name to hand over in the address. */
export function handOver(list: readonly string[]): string {
  const name = crypto.randomUUID().slice(0, 8);
  sessionStorage.setItem(PREFIX + name, JSON.stringify(list));
  return name;
}

/** The list that was kept under a name; empty where this window knows none. */
export function takeHandedOver(name: string): string[] {
  const kept = name ? sessionStorage.getItem(PREFIX + name) : null;
  return kept ? (JSON.parse(kept) as string[]) : [];
}
