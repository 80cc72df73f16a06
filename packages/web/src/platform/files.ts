import { decodeText } from '@kindred/core/platform/decode-text';

/** Hands something to the person as a file. */
export function saveBlob(blob: Blob, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
export const saveText = (name: string, text: string, mediaType: string): void =>
  saveBlob(new Blob([text], { type: mediaType }), name);

/** Asks for a file and reads it as text, whatever its encoding; null when the person thinks better of it. */
export function openText(accept: string): Promise<{ name: string; text: string } | null> {
  return new Promise((resolve, reject) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.addEventListener('cancel', () => resolve(null));
    input.addEventListener('change', () => {
      const file = input.files?.[0];
      if (!file) return resolve(null);
      if (file.size > 5_000_000) return reject(new RangeError('This file is larger than 5 MB. Nothing was changed.'));
      file
        .arrayBuffer()
        .then((buffer) => resolve({ name: file.name, text: decodeText(new Uint8Array(buffer)).text }))
        .catch(reject);
    });
    input.click();
  });
}
