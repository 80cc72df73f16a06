import { checkName } from '@kindred/core/naming/convention';
import { cleanFileName, splitFileName } from '@kindred/core/naming/file-name';
import { nextRevision, STARTER_REVISIONS } from '@kindred/core/register/revision';
import { deliver, lookUpCodes } from '@kindred/contract/register/register';
import { defineStore } from 'pinia';
import { Upload } from 'tus-js-client';
import { computed, reactive, ref } from 'vue';
import { useNaming } from '../naming/store.ts';
import { call, getCsrfToken } from '../platform/api.ts';
import { sayDone, sayProblem } from '../platform/say.ts';

export interface Arrival {
  key: number;
  file: File;
  fileName: string;
  code: string;
  title: string;
  status: string;
  revision: string;
  classification: string;
  description: string;
  state: 'waiting' | 'arriving' | 'arrived' | 'refused' | 'delivered';
  /** Bytes that have arrived. */
  sent: number;
  problem: string;
  uploadId: string;
  /** Number that the version will have … */
  version: number;
  /** … and that of the version it follows, 0 for the first. */
  onto: number;
  /** Who has reserved the container, if somebody else has. */
  reservedBy: string;
}

const PARALLEL = 3;
const CHUNK = 8 * 2 ** 20;
const PER_DELIVERY = 500;
const PER_LOOK = 1000;

/** Files on their way in. The queue goes on while one works elsewhere in the application. */
export const useUploads = defineStore('uploads', () => {
  const arrivals = ref<Arrival[]>([]);
  const open = ref(false);
  const folderId = ref('');
  const projectId = ref('');
  const delivering = ref(false);
  const running = new Map<number, Upload>();
  let lastKey = 0;

  const naming = useNaming();
  const revisions = computed(() => naming.naming?.revisions ?? STARTER_REVISIONS);
  const verdictOf = (arrival: Arrival) => {
    const convention = naming.conventionIn(folderId.value);
    return convention ? checkName(convention, arrival.code) : null;
  };
  /** Kept beside the list: counting ten thousand files anew with each that arrives would stop the page. */
  const counts = reactive<Record<Arrival['state'], number>>({
    waiting: 0,
    arriving: 0,
    arrived: 0,
    refused: 0,
    delivered: 0,
  });
  function turn(arrival: Arrival, state: Arrival['state']): void {
    counts[arrival.state]--;
    counts[state]++;
    arrival.state = state;
  }
  const waiting = computed(() => counts.waiting + counts.arriving);
  const arrived = computed(() => counts.arrived);
  const queue: Arrival[] = [];

  function add(files: Iterable<File>, project: string, folder: string): void {
    projectId.value = project;
    folderId.value = folder;
    open.value = true;
    const added = [...files].map((file): Arrival => {
      const fileName = cleanFileName(file.name);
      const empty = file.size === 0;
      return {
        key: ++lastKey,
        file,
        fileName,
        code: splitFileName(fileName).stem.normalize('NFC'),
        title: '',
        status: 'S0',
        revision: nextRevision(revisions.value, undefined),
        classification: '',
        description: '',
        state: empty ? 'refused' : 'waiting',
        sent: 0,
        problem: empty ? 'The file is empty: nothing to deliver. Check it where it was made.' : '',
        uploadId: '',
        version: 1,
        onto: 0,
        reservedBy: '',
      };
    });
    const fresh: Arrival[] = [];
    for (const one of added) {
      const arrival = reactive(one);
      arrivals.value.push(arrival);
      counts[arrival.state]++;
      if (arrival.state === 'waiting') fresh.push(arrival);
    }
    // The queue is taken from its end.
    queue.unshift(...fresh.reverse());
    void propose(arrivals.value.slice(-added.length));
    pump();
  }

  /** What the register knows of a code becomes the proposal for its next version, unless the person wrote something already. */
  async function propose(added: readonly Arrival[]): Promise<void> {
    const params = { projectId: projectId.value };
    for (let i = 0; i < added.length; i += PER_LOOK) {
      const part = added.slice(i, i + PER_LOOK);
      const codes = part.map(({ code }) => code.trim()).filter(Boolean);
      const known = new Map(
        (await call(lookUpCodes, { params, body: { codes } }).catch(() => [])).map((one) => [one.code, one]),
      );
      for (const arrival of part) {
        const one = known.get(arrival.code.trim());
        if (!one) {
          Object.assign(arrival, { version: 1, onto: 0, reservedBy: '' });
          continue;
        }
        const { title, status, classification, versionNumber, nextNumber } = one;
        const revision = nextRevision(revisions.value, one.revision);
        Object.assign(arrival, {
          title: arrival.title || title,
          status,
          classification,
          revision,
          version: nextNumber,
          onto: versionNumber,
          reservedBy: one.reservedBy ?? '',
        });
      }
    }
  }

  function pump(): void {
    while (running.size < PARALLEL) {
      const next = queue.pop();
      if (!next) return;
      if (next.state === 'waiting') start(next);
    }
  }

  function start(arrival: Arrival): void {
    turn(arrival, 'arriving');
    const upload = new Upload(arrival.file, {
      endpoint: '/api/uploads',
      chunkSize: CHUNK,
      retryDelays: [500, 1500, 4000, 10_000, 30_000],
      removeFingerprintOnSuccess: true,
      metadata: { projectId: projectId.value, filename: arrival.file.name },
      headers: { 'x-csrf-token': getCsrfToken() },
      onProgress: (sent) => void (arrival.sent = sent),
      onSuccess: () => finish(arrival, 'arrived', '', upload.url!.split('/').at(-1)!),
      onError: (error) => finish(arrival, 'refused', sentence(error)),
    });
    running.set(arrival.key, upload);
    void upload.findPreviousUploads().then((previous) => {
      if (running.get(arrival.key) !== upload) return;
      if (previous[0]) upload.resumeFromPreviousUpload(previous[0]);
      upload.start();
    });
  }

  function finish(arrival: Arrival, state: Arrival['state'], problem: string, uploadId = ''): void {
    // Taken out meanwhile.
    if (!running.delete(arrival.key)) return;
    turn(arrival, state);
    Object.assign(arrival, { problem, uploadId });
    pump();
  }

  function sentence(error: Error): string {
    const body = (error as { originalResponse?: { getBody(): string } }).originalResponse?.getBody();
    try {
      return (JSON.parse(body ?? '') as { detail: string }).detail;
    } catch {
      return 'The connection broke off. What has arrived is kept: try again to go on from there.';
    }
  }

  function retry(arrival: Arrival): void {
    if (arrival.file.size === 0) return;
    turn(arrival, 'waiting');
    queue.push(arrival);
    pump();
  }

  async function remove(arrival: Arrival): Promise<void> {
    const upload = running.get(arrival.key);
    running.delete(arrival.key);
    const queued = queue.indexOf(arrival);
    if (queued >= 0) queue.splice(queued, 1);
    counts[arrival.state]--;
    arrivals.value = arrivals.value.filter(({ key }) => key !== arrival.key);
    pump();
    // What the server has of it goes there by itself, should this not reach it.
    await upload?.abort(true).catch(() => undefined);
  }

  /** Delivers all that has arrived, in parts that one request can carry. */
  async function deliverArrived(): Promise<void> {
    delivering.value = true;
    try {
      for (const round of rounds(arrivals.value.filter(({ state }) => state === 'arrived')))
        for (let i = 0; i < round.length; i += PER_DELIVERY) await deliverPart(round.slice(i, i + PER_DELIVERY));
      arrivals.value = arrivals.value.filter(({ state }) => state !== 'delivered');
      counts.delivered = 0;
      if (!arrivals.value.length) open.value = false;
    } catch (error) {
      sayProblem(error);
    } finally {
      delivering.value = false;
    }
  }

  /** Files of one code go one after the other: the later ones become the versions after. */
  function rounds(ready: Arrival[]): Arrival[][] {
    const result: Arrival[][] = [];
    const times = new Map<string, number>();
    for (const arrival of ready) {
      const code = arrival.code.trim();
      const round = times.get(code) ?? 0;
      times.set(code, round + 1);
      (result[round] ??= []).push(arrival);
    }
    return result;
  }
  /** The file of this drop whose code an arrival shares, when it comes before. */
  const firstOfCode = computed(() => {
    const first = new Map<string, Arrival>();
    for (const arrival of arrivals.value) {
      const code = arrival.code.trim();
      if (!first.has(code)) first.set(code, arrival);
    }
    return first;
  });
  function twinOf(arrival: Arrival): Arrival | undefined {
    const first = firstOfCode.value.get(arrival.code.trim());
    return first && first.key !== arrival.key ? first : undefined;
  }

  async function deliverPart(part: Arrival[]): Promise<void> {
    const files = part.map((arrival) => {
      const { uploadId, code, title, status, revision, classification, description } = arrival;
      const metadata = { title, status, revision, classification, description };
      // A twin follows the first of this drop, whatever number that gets.
      const onto = twinOf(arrival) ? {} : { onto: arrival.onto };
      return { uploadId, code: code.trim(), ...metadata, ...onto };
    });
    const answer = await call(deliver, {
      params: { projectId: projectId.value },
      body: { folderId: folderId.value, files },
    });
    for (const arrival of part) turn(arrival, 'delivered');
    const atIntake = answer.files.filter((file) => file.atIntake).length;
    const contested = answer.files.filter((file) => file.contested).length;
    const parts = [
      `${part.length - atIntake} delivered to the register`,
      ...(atIntake ? [`${atIntake} left at the intake`] : []),
      ...(contested ? [`${contested} beside a newer or reserved version, for somebody to decide`] : []),
    ];
    sayDone(`${parts.join(', ')}. They are being prepared.`);
  }

  return {
    arrivals,
    open,
    folderId,
    projectId,
    delivering,
    waiting,
    arrived,
    add,
    propose,
    twinOf,
    retry,
    remove,
    verdictOf,
    deliverArrived,
  };
});
