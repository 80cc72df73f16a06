import type { AnyOperation, Body, Params, Query, Response as Answer } from '@kindred/contract/platform/operation';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Upload } from 'tus-js-client';

/** What a server refuses, in its own words. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly title: string,
    readonly detail: string,
    readonly fields: { path: string; message: string }[] = [],
  ) {
    super(detail);
  }
}

/** The server cannot be reached, or is not well: worth trying again. */
export class Unreachable extends Error {}

interface Arguments<O extends AnyOperation> {
  params?: Params<O> & Record<string, string>;
  query?: Query<O>;
  body?: Body<O>;
}

/** A program at the public API, with a personal token. */
export class ApiClient {
  constructor(
    readonly server: string,
    private readonly token: string,
  ) {}

  private get headers(): Record<string, string> {
    return { authorization: `Bearer ${this.token}`, 'user-agent': 'kindred-agent/1' };
  }

  async call<O extends AnyOperation>(operation: O, { params, query, body }: Arguments<O> = {}): Promise<Answer<O>> {
    const place = operation.path.replace(/:(\w+)/g, (_, name: string) =>
      encodeURIComponent((params as Record<string, string>)[name]!),
    );
    const search = query ? `?${new URLSearchParams(query as Record<string, string>)}` : '';
    const response = await fetch(`${this.server}/api${place}${search}`, {
      method: operation.method.toUpperCase(),
      headers: { ...this.headers, ...(body !== undefined && { 'content-type': 'application/json' }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    }).catch((error: Error) => {
      throw new Unreachable(`${this.server} cannot be reached (${error.message})`);
    });
    const text = await response.text();
    if (!response.ok) throw refusal(response.status, text);
    return (text ? JSON.parse(text) : null) as Answer<O>;
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
          reject(response ? refusal(response.getStatus(), response.getBody()) : new Unreachable(error.message));
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

function refusal(status: number, text: string): Error {
  try {
    const { code, title, detail, fields } = JSON.parse(text) as Refusal;
    if (status >= 500 || status === 429) return new Unreachable(detail);
    return new Refusal(status, code, title, detail, fields);
  } catch {
    return new Unreachable(`The server answered ${status} with something that is no answer of ours.`);
  }
}
