import type { Upload } from 'tus-js-client';
import { getCsrfToken } from '../platform/api.ts';
import { connected } from '../platform/connected.ts';
import type { Arrival } from './arrival.ts';

const PARALLEL = 3;
const CHUNK = 8 * 2 ** 20;

/** What becomes of a file that was given to the queue. */
export interface Listener {
  started(arrival: Arrival): void;
  /** The server cannot be reached; it goes on by itself as soon as it can be. */
  paused(arrival: Arrival): void;
  arrived(arrival: Arrival, uploadId: string): void;
  broke(arrival: Arrival, problem: string): void;
}
interface Waiting {
  arrival: Arrival;
  projectId: string;
  listener: Listener;
}

/** Sends files to the server, a few at a time, each for its own project; what broke off goes on from there. */
export class UploadQueue {
  private readonly waiting: Waiting[] = [];
  /** Undefined until what sends it has been loaded. */
  private readonly running = new Map<number, Upload | undefined>();

  /** `reachable` waits until the server answers. */
  constructor(private readonly reachable: () => Promise<void> = connected) {}

  private loading: Promise<typeof import('tus-js-client')> | undefined;

  /** Sends them in their order, after those that wait already. */
  add(arrivals: readonly Arrival[], projectId: string, listener: Listener): void {
    // Taken from its end.
    this.waiting.unshift(...arrivals.map((arrival) => ({ arrival, projectId, listener })).reverse());
    this.pump();
  }

  /** Takes a file out, and off the server what has arrived of it. */
  async remove({ key }: Arrival): Promise<void> {
    const upload = this.running.get(key);
    this.running.delete(key);
    const at = this.waiting.findIndex(({ arrival }) => arrival.key === key);
    if (at >= 0) this.waiting.splice(at, 1);
    this.pump();
    // What the server has of it goes there by itself, should this not reach it.
    await upload?.abort(true).catch(() => undefined);
  }

  private pump(): void {
    while (this.running.size < PARALLEL) {
      const next = this.waiting.pop();
      if (!next) return;
      void this.start(next);
    }
  }

  /** What sends files, loaded with the first of them. */
  private async sender(): Promise<typeof import('tus-js-client')> {
    this.loading ??= import('tus-js-client');
    try {
      return await this.loading;
    } catch (error) {
      this.loading = undefined;
      throw error;
    }
  }

  private async start({ arrival, projectId, listener }: Waiting): Promise<void> {
    this.running.set(arrival.key, undefined);
    listener.started(arrival);
    // Whoever was taken out meanwhile is heard of no more.
    const end = (tell: () => void): void => {
      if (!this.running.delete(arrival.key)) return;
      tell();
      this.pump();
    };
    const tus = await this.sender().catch((error: Error) => {
      end(() => listener.broke(arrival, sentence(error)));
    });
    if (!tus || !this.running.has(arrival.key)) return;
    const upload = new tus.Upload(arrival.file!, {
      endpoint: '/api/uploads',
      chunkSize: CHUNK,
      retryDelays: [500, 1500, 4000, 10_000, 30_000],
      removeFingerprintOnSuccess: true,
      metadata: { projectId, filename: arrival.file!.name },
      headers: { 'x-csrf-token': getCsrfToken() },
      onProgress: (sent) => void (arrival.sent = sent),
      onSuccess: () => end(() => listener.arrived(arrival, upload.url!.split('/').at(-1)!)),
      onError: async (error) => {
        const heard = (error as { originalResponse?: unknown }).originalResponse;
        if (heard || this.running.get(arrival.key) !== upload)
          return end(() => listener.broke(arrival, sentence(error)));
        listener.paused(arrival);
        await this.reachable();
        if (this.running.get(arrival.key) !== upload) return;
        listener.started(arrival);
        upload.start();
      },
    });
    this.running.set(arrival.key, upload);
    const previous = await upload.findPreviousUploads();
    if (this.running.get(arrival.key) !== upload) return;
    if (previous[0]) upload.resumeFromPreviousUpload(previous[0]);
    upload.start();
  }
}

/** What the server said, or that it could not be heard. */
export function sentence(error: Error): string {
  const body = (error as { originalResponse?: { getBody(): string } | null }).originalResponse?.getBody();
  try {
    return (JSON.parse(body ?? '') as { detail: string }).detail;
  } catch {
    return 'The connection broke off. What has arrived is kept: try again to go on from there.';
  }
}
