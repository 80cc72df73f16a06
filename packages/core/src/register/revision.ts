/**
 * The revision that usually follows: P01 → P02, C09 → C10, P01.1 → P01.2, A → B; the first is P01.
 * Unknown shapes come back unchanged, so that a person decides.
 */
export function nextRevision(revision: string | undefined): string {
  if (!revision) return 'P01';
  const numbered = /^(.*?)(\d+)$/.exec(revision);
  if (numbered) {
    const [, prefix = '', digits = ''] = numbered;
    return prefix + String(Number(digits) + 1).padStart(digits.length, '0');
  }
  return /^[A-Y]$/.test(revision) ? String.fromCharCode(revision.charCodeAt(0) + 1) : revision;
}
