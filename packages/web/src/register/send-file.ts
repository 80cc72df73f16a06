/** Sends one file for something else than a delivery, and waits until it has arrived. */
import type { UploadPurpose } from '@kindred/contract/register/uploads';
import { getCsrfToken } from '../platform/api.ts';
import { sentence } from './upload-queue.ts';

/** Answers the id of the upload; `progress` hears of bytes. Rejects with a sentence. */
export async function sendFile(
  projectId: string,
  file: File,
  purpose: UploadPurpose,
  progress?: (sent: number) => void,
): Promise<string> {
  const { Upload } = await import('tus-js-client');
  return new Promise((resolve, reject) => {
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: 16 * 2 ** 20,
      retryDelays: [500, 1500, 4000, 10_000],
      storeFingerprintForResuming: false,
      metadata: { projectId, filename: file.name, purpose },
      headers: { 'x-csrf-token': getCsrfToken() },
      onProgress: (sent) => progress?.(sent),
      onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
      onError: (error) => reject(new Error(sentence(error))),
    });
    upload.start();
  });
}
