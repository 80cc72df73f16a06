/** Controls, bidirectional marks and zero-width characters: invisible, and able to make a name look like another. */
// eslint-disable-next-line no-control-regex
const INVISIBLE = /[\u0000-\u001f\u007f-\u009f\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g;

/** The last part of a path, one Unicode form, nothing invisible, at most 200 characters; never empty. */
export function cleanFileName(raw: string): string {
  const last = raw.normalize('NFC').replace(INVISIBLE, '').split(/[/\\]/).at(-1)!.trim();
  const bare = last.replace(/^\.+/, '');
  if (!bare) return 'unnamed';
  const { stem, extension } = splitFileName(bare);
  return stem.slice(0, 200 - extension.length) + extension;
}

/** `A-B.01.pdf` → `{ stem: 'A-B.01', extension: '.pdf' }`; the extension keeps its dot. */
export function splitFileName(name: string): { stem: string; extension: string } {
  const dot = name.lastIndexOf('.');
  if (dot <= 0 || name.length - dot > 10) return { stem: name, extension: '' };
  return { stem: name.slice(0, dot), extension: name.slice(dot) };
}
