import type { AnyOperation, Body, Params, Query, Response as Answer } from '@kindred/contract/platform/operation';
import type { Session } from '@kindred/contract/identity/identity';
import { Upload } from 'tus-js-client';

type Arguments<O extends AnyOperation> = {
  params?: Params<O> & Record<string, string>;
  query?: Query<O>;
  body?: Body<O>;
};

/** One person at the public API, at a moment of the story. */
export class ApiPerson {
  private cookie = '';
  private csrfToken = '';
  moment: Date | undefined;

  constructor(
    private readonly address: string,
    private readonly clockSecret: string,
  ) {}

  /** The same person, signed in still, where the server stands now. */
  at(address: string): ApiPerson {
    const person = new ApiPerson(address, this.clockSecret);
    person.cookie = this.cookie;
    person.csrfToken = this.csrfToken;
    return person;
  }

  /** For requests that answer with a file. */
  headersForFiles(): Record<string, string> {
    return this.headers();
  }

  private headers(): Record<string, string> {
    return {
      ...(this.cookie && { cookie: this.cookie }),
      ...(this.csrfToken && { 'x-csrf-token': this.csrfToken }),
      ...(this.moment && { 'x-demo-clock': this.moment.toISOString(), 'x-demo-clock-secret': this.clockSecret }),
    };
  }

  async call<O extends AnyOperation>(operation: O, { params, query, body }: Arguments<O> = {}): Promise<Answer<O>> {
    const path = operation.path.replace(/:(\w+)/g, (_, name: string) =>
      encodeURIComponent((params as Record<string, string>)[name]!),
    );
    const search = query ? `?${new URLSearchParams(query as Record<string, string>)}` : '';
    const response = await fetch(`${this.address}/api${path}${search}`, {
      method: operation.method.toUpperCase(),
      headers: { ...this.headers(), ...(body !== undefined && { 'content-type': 'application/json' }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    if (!response.ok) throw new Error(`${operation.id} answered ${response.status}: ${text}`);
    const cookie = response.headers.get('set-cookie');
    if (cookie) this.cookie = cookie.split(';')[0]!;
    const answer = (text ? JSON.parse(text) : null) as Answer<O>;
    if (cookie) this.csrfToken = (answer as Session).csrfToken;
    return answer;
  }

  /** Uploads a file and answers its upload id. `retryDelays`: milliseconds before each further try. */
  async upload(
    projectId: string,
    fileName: string,
    bytes: Uint8Array,
    retryDelays = [500, 2000, 5000],
  ): Promise<string> {
    return new Promise((resolve, reject) => {
      const upload = new Upload(Buffer.from(bytes), {
        endpoint: `${this.address}/api/uploads`,
        headers: this.headers(),
        metadata: { projectId, filename: fileName },
        chunkSize: 16 * 2 ** 20,
        retryDelays,
        onError: reject,
        onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
      });
      upload.start();
    });
  }
}
