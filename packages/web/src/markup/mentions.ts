/** Ids of the people whom a text names after an @; of two names that begin alike the longer one counts. */
export function mentioned(text: string, people: readonly { id: string; name: string }[]): string[] {
  const ids = new Set<string>();
  let rest = text;
  for (const { id, name } of [...people].sort((a, b) => b.name.length - a.name.length)) {
    if (!name || !rest.includes(`@${name}`)) continue;
    ids.add(id);
    rest = rest.replaceAll(`@${name}`, '');
  }
  return [...ids];
}
