import { fileTypeFromBuffer } from 'file-type';
import type { FileKind } from './file-kind.ts';

export interface FileContent {
  kind: FileKind;
  mediaType: string;
}

/** Images that every browser shows. */
const IMAGES = new Set(['image/png', 'image/jpeg', 'image/webp']);
/** A browser would run what is written in such a file: these stay opaque bytes. */
const ACTIVE = /xml|html|script/;
const OPAQUE = 'application/octet-stream';

/**
 * Tells what a file is from its first bytes (4 KiB is enough), never from its name.
 * Unknown content is a document of opaque bytes.
 */
export async function detectContent(head: Uint8Array): Promise<FileContent> {
  const text = new TextDecoder('latin1').decode(head.subarray(0, 1024));
  // PDF 2.0, annex I: the header may stand anywhere in the first 1024 bytes.
  if (text.includes('%PDF-')) return { kind: 'drawing', mediaType: 'application/pdf' };
  if (/^\uFEFF?\s*(?:\/\*[\s\S]*?\*\/\s*)*ISO-10303-21\s*;/.test(text.replace(/^ï»¿/, '')))
    return { kind: 'model', mediaType: 'application/x-step' };
  const detected = (await fileTypeFromBuffer(head))?.mime ?? OPAQUE;
  const mediaType = ACTIVE.test(detected) ? OPAQUE : detected;
  return { kind: IMAGES.has(mediaType) ? 'image' : 'document', mediaType };
}
