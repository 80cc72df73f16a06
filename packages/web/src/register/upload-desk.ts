import { deliver } from '@kindred/contract/register/register';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { cleanFileName, splitFileName } from '@kindred/core/naming/file-name';
import { nextRevision, type RevisionScheme } from '@kindred/core/register/revision';
import { counted } from '@kindred/words/sentence';
import { computed, reactive, ref } from 'vue';
import { call } from '../platform/api.ts';
import { sayDone, sayProblem } from '../platform/say.ts';
import type { Arrival } from './arrival.ts';
import { propose } from './upload-proposals.ts';
import type { UploadQueue } from './upload-queue.ts';

const PER_DELIVERY = 500;

export interface DeskSettings {
  projectId: string;
  folderId: string;
  queue: UploadQueue;
  conventionIn(folderId: string): Convention | undefined;
  revisions(): RevisionScheme;
}
export type UploadDesk = ReturnType<typeof createUploadDesk>;

let lastKey = 0;

/** The files that go to one folder of one project, from being chosen until they are delivered. */
export function createUploadDesk({ projectId, queue, conventionIn, revisions, ...begin }: DeskSettings) {
  const arrivals = ref<Arrival[]>([]);
  const folderId = ref(begin.folderId);
  const delivering = ref(false);
  /** Kept beside the list: counting ten thousand files anew with each that arrives would stop the page. */
  const counts = reactive<Record<Arrival['state'], number>>({
    waiting: 0,
    arriving: 0,
    arrived: 0,
    refused: 0,
    delivered: 0,
  });
  function setState(arrival: Arrival, state: Arrival['state'], problem = ''): void {
    counts[arrival.state]--;
    counts[state]++;
    Object.assign(arrival, { state, problem });
  }
  const listener = {
    started: (arrival: Arrival) => setState(arrival, 'arriving'),
    broke: (arrival: Arrival, problem: string) => setState(arrival, 'refused', problem),
    arrived(arrival: Arrival, uploadId: string) {
      arrival.uploadId = uploadId;
      setState(arrival, 'arrived');
    },
  };

  function arrivalOf(file: File): Arrival {
    const fileName = cleanFileName(file.name);
    const empty = file.size === 0;
    return reactive({
      key: ++lastKey,
      file,
      fileName,
      code: splitFileName(fileName).stem.normalize('NFC'),
      title: '',
      status: 'S0',
      revision: nextRevision(revisions(), undefined),
      classification: '',
      description: '',
      state: empty ? 'refused' : 'waiting',
      sent: 0,
      problem: empty ? 'The file is empty: nothing to deliver. Check it where it was made.' : '',
      uploadId: '',
      version: 1,
      onto: 0,
      reservedBy: '',
    });
  }

  const proposeFor = async (some: readonly Arrival[]): Promise<void> => {
    try {
      await propose(projectId, some, revisions);
    } catch (error) {
      sayProblem(error);
    }
  };

  function add(files: Iterable<File>): void {
    const added = [...files].map(arrivalOf);
    for (const arrival of added) {
      arrivals.value.push(arrival);
      counts[arrival.state]++;
    }
    void proposeFor(added);
    const whole = added.filter(({ state }) => state === 'waiting');
    queue.add(whole, projectId, listener);
  }

  function retry(arrival: Arrival): void {
    if (arrival.file.size === 0) return;
    setState(arrival, 'waiting');
    queue.add([arrival], projectId, listener);
  }

  async function remove(arrival: Arrival): Promise<void> {
    counts[arrival.state]--;
    arrivals.value = arrivals.value.filter(({ key }) => key !== arrival.key);
    await queue.remove(arrival);
  }

  /** Delivers all that has arrived, in parts that one request can carry. */
  async function deliverArrived(): Promise<void> {
    delivering.value = true;
    try {
      for (const round of rounds(arrivals.value.filter(({ state }) => state === 'arrived')))
        for (let i = 0; i < round.length; i += PER_DELIVERY) await deliverPart(round.slice(i, i + PER_DELIVERY));
      arrivals.value = arrivals.value.filter(({ state }) => state !== 'delivered');
      counts.delivered = 0;
    } catch (error) {
      sayProblem(error);
    } finally {
      delivering.value = false;
    }
  }

  /** The file of this desk whose code an arrival shares, when it comes before. */
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
      // A twin follows the first of this desk, whatever number that gets.
      const onto = twinOf(arrival) ? {} : { onto: arrival.onto };
      return { uploadId, code: code.trim(), ...metadata, ...onto };
    });
    const answer = await call(deliver, { params: { projectId }, body: { folderId: folderId.value, files } });
    for (const arrival of part) setState(arrival, 'delivered');
    const atIntake = answer.files.filter((file) => file.atIntake).length;
    const conflicting = answer.files.filter((file) => file.conflicting).length;
    const parts = [
      `${counted(part.length - atIntake, 'file')} delivered to the register`,
      ...(atIntake ? [`${atIntake} left at the intake`] : []),
      ...(conflicting ? [`${conflicting} in conflict with a newer or reserved version, for somebody to decide`] : []),
    ];
    sayDone(`${parts.join(', ')}. They are being prepared.`);
  }

  return reactive({
    projectId,
    folderId,
    arrivals,
    delivering,
    waiting: computed(() => counts.waiting + counts.arriving),
    arrived: computed(() => counts.arrived),
    add,
    propose: proposeFor,
    twinOf,
    retry,
    remove,
    deliverArrived,
    moveTo: (id: string): void => void (folderId.value = id),
    verdictOf(arrival: Arrival) {
      const convention = conventionIn(folderId.value);
      return convention ? checkName(convention, arrival.code) : null;
    },
  });
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
