import { createClient, type Arguments } from '@kindred/client/client';
import type { AnyOperation, Response as Answer } from '@kindred/contract/platform/operation';
import type { Session } from '@kindred/contract/identity/identity';
import type { UploadPurpose } from '@kindred/contract/register/uploads';
import { Upload } from 'tus-js-client';

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

  async call<O extends AnyOperation>(operation: O, args: Arguments<O> = {}): Promise<Answer<O>> {
    let cookie: string | null = null;
    const ask = createClient({
      server: this.address,
      headers: () => this.headers(),
      heard: ({ headers, ok }) => void (cookie = ok ? headers.get('set-cookie') : null),
    });
    const answer = await ask(operation, args);
    if (cookie !== null) {
      this.cookie = (cookie as string).split(';')[0]!;
      this.csrfToken = (answer as Session | null)?.csrfToken ?? '';
    }
    return answer;
  }

  /** Uploads a file and answers its upload id. `retryDelays`: milliseconds before each further try. */
  async upload(
    projectId: string,
    fileName: string,
    bytes: Uint8Array,
    retryDelays = [500, 2000, 5000],
    purpose: UploadPurpose = 'delivery',
  ): Promise<string> {
    return new Promise((resolve, reject) => {
      const upload = new Upload(Buffer.from(bytes), {
        endpoint: `${this.address}/api/uploads`,
        headers: this.headers(),
        metadata: { projectId, filename: fileName, purpose },
        chunkSize: 16 * 2 ** 20,
        retryDelays,
        onError: reject,
        onSuccess: () => resolve(upload.url!.split('/').at(-1)!),
      });
      upload.start();
    });
  }
}
