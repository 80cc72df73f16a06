import { ApiProblem, createClient, problemFrom, Unreachable, type Arguments } from '@kindred/client/client';
import type { AnyOperation, Response as Answer } from '@kindred/contract/platform/operation';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Upload } from 'tus-js-client';

export { ApiProblem, Unreachable };

/** A program at the public API, with a personal token. */
export class ApiClient {
  constructor(
    readonly server: string,
    private readonly token: string,
  ) {}

  private get headers(): Record<string, string> {
    return { authorization: `Bearer ${this.token}`, 'user-agent': 'kindred-agent/1' };
  }

  /** A server that is not well is as good as one that cannot be reached: worth trying again. */
  async call<O extends AnyOperation>(operation: O, args: Arguments<O> = {}): Promise<Answer<O>> {
    try {
      return await createClient({ server: this.server, headers: () => this.headers })(operation, args);
    } catch (error) {
      if (error instanceof Unreachable) throw new Unreachable(`${this.server} cannot be reached (${error.message})`);
      throw error instanceof ApiProblem ? unlessUnwell(error) : error;
    }
  }

  /** Sends a file in parts that go on after a break; answers the upload's id. `progress`: bytes sent so far. */
  async upload(
    projectId: string,
    file: string,
    progress: (sent: number) => void,
    signal?: AbortSignal,
  ): Promise<string> {
    const { size } = await fs.stat(file);
    return new Promise((resolve, reject) => {
      const upload = new Upload(createReadStream(file), {
        endpoint: `${this.server}/api/uploads`,
        headers: this.headers,
        metadata: { projectId, filename: path.basename(file) },
        uploadSize: size,
        chunkSize: 8 * 2 ** 20,
        retryDelays: [500, 2000, 5000, 15_000],
        onProgress: progress,
        onError: (error) => {
          const response = (error as { originalResponse?: { getStatus(): number; getBody(): string } })
            .originalResponse;
          reject(
            response
              ? unlessUnwell(new ApiProblem(problemFrom(response.getBody(), response.getStatus())))
              : new Unreachable(error.message),
          );
        },
        onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
      });
      signal?.addEventListener('abort', () => void upload.abort().then(() => reject(new Error('Stopped.'))), {
        once: true,
      });
      upload.start();
    });
  }
}

function unlessUnwell(error: ApiProblem): Error {
  const { status, detail } = error.problem;
  return status >= 500 || status === 429 ? new Unreachable(detail) : error;
}
