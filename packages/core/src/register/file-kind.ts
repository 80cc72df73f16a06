export const FILE_KINDS = ['model', 'drawing', 'image', 'document'] as const;
export type FileKind = (typeof FILE_KINDS)[number];

const EXTENSION_KINDS: Record<string, FileKind> = {
  '.ifc': 'model',
  '.glb': 'model',
  '.gltf': 'model',
  '.obj': 'model',
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
