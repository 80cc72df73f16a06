import { fileTypeFromBuffer } from 'file-type';
import type { FileKind } from './file-kind.ts';

export interface FileContent {
  kind: FileKind;
  mediaType: string;
}

/** What models are called by their content. */
export const MODEL_TYPES = {
  ifc: 'application/x-step',
  glb: 'model/gltf-binary',
  gltf: 'model/gltf+json',
  obj: 'model/obj',
} as const;

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
    return { kind: 'model', mediaType: MODEL_TYPES.ifc };
  const mesh = meshType(new TextDecoder('latin1').decode(head.subarray(0, 4096)));
  if (mesh) return { kind: 'model', mediaType: mesh };
  const detected = (await fileTypeFromBuffer(head))?.mime ?? OPAQUE;
  const mediaType = ACTIVE.test(detected) ? OPAQUE : detected;
  return { kind: IMAGES.has(mediaType) ? 'image' : 'document', mediaType };
}

/** Keys that glTF alone has beside each other, and the first words of lines of an OBJ. */
const GLTF_KEYS =
  /"(?:asset|accessors|bufferViews|buffers|meshes|scenes|componentType|byteOffset|nodes|materials)"\s*:/g;
const OBJ_LINE = /^(?:#|$|(?:mtllib|usemtl|o|g|s|v|vn|vt|vp|f|l|p|cstype|deg|curv2?|surf|parm|end)(?:\s|$))/;

function meshType(text: string): string | null {
  if (text.startsWith('glTF')) return MODEL_TYPES.glb;
  if (/^\s*\{/.test(text.replace(/^ï»¿/, '')) && new Set(text.match(GLTF_KEYS)).size >= 3) return MODEL_TYPES.gltf;
  // The last line may be cut.
  const lines = text.split(/\r?\n/).slice(0, -1);
  return lines.some((line) => /^v\s+[-\d.]/.test(line)) && lines.every((line) => OBJ_LINE.test(line.trim()))
    ? MODEL_TYPES.obj
    : null;
}
