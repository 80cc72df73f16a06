export const FILE_KINDS = ['model', 'drawing', 'image', 'document'] as const;
export type FileKind = (typeof FILE_KINDS)[number];

export interface Sniffed {
  kind: FileKind;
  mediaType: string;
}

const ascii = (bytes: Uint8Array, text: string, at = 0): boolean =>
  [...text].every((letter, i) => bytes[at + i] === letter.charCodeAt(0));

/**
 * Tells what a file is from its first bytes (1 KiB is enough), never from its name.
 * Unknown content is a document of opaque bytes.
 */
export function sniffFile(head: Uint8Array): Sniffed {
  const text = new TextDecoder('latin1').decode(head.subarray(0, 1024));
  if (text.includes('%PDF-')) return { kind: 'drawing', mediaType: 'application/pdf' };
  if (/^\uFEFF?\s*(?:\/\*[\s\S]*?\*\/\s*)*ISO-10303-21\s*;/.test(text.replace(/^ï»¿/, '')))
    return { kind: 'model', mediaType: 'application/x-step' };
  if (ascii(head, '\x89PNG\r\n')) return { kind: 'image', mediaType: 'image/png' };
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return { kind: 'image', mediaType: 'image/jpeg' };
  if (ascii(head, 'RIFF') && ascii(head, 'WEBP', 8)) return { kind: 'image', mediaType: 'image/webp' };
  if (ascii(head, 'PK\x03\x04')) return { kind: 'document', mediaType: 'application/zip' };
  return { kind: 'document', mediaType: 'application/octet-stream' };
}

const EXTENSION_KINDS: Record<string, FileKind> = {
  '.ifc': 'model',
  '.pdf': 'drawing',
  '.png': 'image',
  '.jpg': 'image',
  '.jpeg': 'image',
  '.webp': 'image',
};

/** What the extension claims; undefined when it claims nothing that we check. */
export function claimedKind(extension: string): FileKind | undefined {
  return EXTENSION_KINDS[extension.toLowerCase()];
}
