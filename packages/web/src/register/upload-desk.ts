import { deliver } from '@kindred/contract/register/register';
import { discardUpload, type WaitingUpload } from '@kindred/contract/register/uploads';
import { checkName, type Convention } from '@kindred/core/naming/convention';
import { cleanFileName, splitFileName } from '@kindred/core/naming/file-name';
import { withNatives } from '@kindred/core/register/file-pair';
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
  queue: UploadQueue;
  conventionIn(folderId: string): Convention | undefined;
  revisions(): RevisionScheme;
}
export type UploadDesk = ReturnType<typeof createUploadDesk>;

/** What a file calls itself. */
/** Numbers in what somebody writes, each once. */
export const numbersIn = (text: string): number[] => [
  ...new Set((text.match(/\d{1,9}/g) ?? []).map(Number).filter((number) => number > 0)),
];
export const stemOf = (fileName: string): string => splitFileName(cleanFileName(fileName)).stem.normalize('NFC');

let lastKey = 0;

/** The files on their way into a project, from being chosen until they are delivered, each to its folder. */
export function createUploadDesk({ projectId, queue, conventionIn, revisions }: DeskSettings) {
  const arrivals = ref<Arrival[]>([]);
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
    paused: (arrival: Arrival) =>
      setState(arrival, 'arriving', 'No connection: it goes on by itself as soon as there is one.'),
    broke: (arrival: Arrival, problem: string) => setState(arrival, 'refused', problem),
    arrived(arrival: Arrival, uploadId: string) {
      arrival.uploadId = uploadId;
      setState(arrival, 'arrived');
    },
  };

  const arrivalOf = (fileName: string, size: number, folderId: string): Arrival =>
    reactive({
      key: ++lastKey,
      fileName,
      size,
      folderId,
      code: stemOf(fileName),
      title: '',
      status: 'S0',
      revision: nextRevision(revisions(), undefined),
      classification: '',
      description: '',
      answers: '',
      state: 'waiting',
      sent: 0,
      problem: '',
      uploadId: '',
      version: 1,
      onto: 0,
      goesWith: '',
      ownVersion: false,
      reservedBy: '',
    });

  const proposeFor = async (some: readonly Arrival[]): Promise<void> => {
    try {
      await propose(projectId, some, revisions);
    } catch (error) {
      sayProblem(error);
    }
  };

  function put(arrival: Arrival): void {
    arrivals.value.push(arrival);
    counts[arrival.state]++;
  }

  /** `folderOf`: where a file of this code goes. */
  function add(files: Iterable<File>, folderOf: (code: string) => string): void {
    const added = [...files].map((file) => {
      const fileName = cleanFileName(file.name);
      const arrival = takenUp(fileName, file.size) ?? arrivalOf(fileName, file.size, folderOf(stemOf(fileName)));
      arrival.file = file;
      if (file.size === 0)
        Object.assign(arrival, {
          state: 'refused',
          problem: 'The file is empty: nothing to deliver. Check it where it was made.',
        });
      put(arrival);
      return arrival;
    });
    void proposeFor(added);
    const whole = added.filter(({ state }) => state === 'waiting');
    queue.add(whole, projectId, listener);
  }

  /** What had broken off before the page was loaded anew, and comes again: with all that was written of it. */
  function takenUp(fileName: string, size: number): Arrival | undefined {
    const broken = arrivals.value.find(
      (one) => !one.file && !one.uploadId && one.fileName === fileName && one.size === size,
    );
    if (!broken) return undefined;
    counts[broken.state]--;
    arrivals.value = arrivals.value.filter(({ key }) => key !== broken.key);
    return Object.assign(broken, { state: 'waiting', problem: '' });
  }

  /** What waits on the server from before; `kept`: what had been written of it. */
  function takeBack(
    uploads: readonly WaitingUpload[],
    folderOf: (code: string) => string,
    kept: (uploadId: string) => Partial<Arrival> | undefined,
  ): void {
    const known = new Set(arrivals.value.map(({ uploadId }) => uploadId));
    // A file that was dropped while the server was asked is on its way already.
    const nameOf = ({ fileName, size }: { fileName: string; size: number }): string => `${size} ${fileName}`;
    const onTheirWay = new Set(arrivals.value.filter(({ file }) => file).map(nameOf));
    const back = uploads
      .filter((upload) => !known.has(upload.id) && !onTheirWay.has(nameOf(upload)))
      .map(({ id, fileName, size, arrived }) => {
        const arrival = arrivalOf(fileName, size, folderOf(stemOf(fileName)));
        if (arrived) Object.assign(arrival, { state: 'arrived', uploadId: id, sent: size }, kept(id));
        else
          Object.assign(arrival, {
            state: 'refused',
            problem:
              'It had not arrived in full when the page was left. Drop the file once more: it goes on from there.',
          });
        put(arrival);
        return arrival;
      });
    void proposeFor(back.filter(({ state }) => state === 'arrived'));
  }

  function retry(arrival: Arrival): void {
    if (!arrival.file?.size) return;
    setState(arrival, 'waiting');
    queue.add([arrival], projectId, listener);
  }

  async function remove(arrival: Arrival): Promise<void> {
    counts[arrival.state]--;
    arrivals.value = arrivals.value.filter(({ key }) => key !== arrival.key);
    await queue.remove(arrival);
    if (!arrival.uploadId) return;
    try {
      await call(discardUpload, { params: { projectId, uploadId: arrival.uploadId } });
    } catch (error) {
      sayProblem(error);
    }
  }

  /** It has arrived, and so has what it goes with: a native file does not become a version because its drawing broke off. */
  const isWhole = (arrival: Arrival): boolean =>
    arrival.state === 'arrived' && (shownOf.value.get(arrival.key)?.state ?? 'arrived') === 'arrived';

  /** Delivers all that has arrived, in parts that one request can carry. */
  async function deliverArrived(): Promise<void> {
    delivering.value = true;
    try {
      for (const round of rounds(pairsOf(arrivals.value.filter(isWhole))))
        for (const [folderId, files] of byFolder(round))
          for (let i = 0; i < files.length; i += PER_DELIVERY)
            await deliverPart(folderId, files.slice(i, i + PER_DELIVERY));
      arrivals.value = arrivals.value.filter(({ state }) => state !== 'delivered');
      counts.delivered = 0;
    } catch (error) {
      sayProblem(error);
    } finally {
      delivering.value = false;
    }
  }

  const pairs = computed(() => pairsOf(arrivals.value));
  /** The file of this desk that an arrival goes with, as its native file. */
  const shownOf = computed(
    () => new Map(pairs.value.flatMap(({ file, natives }) => natives.map((native) => [native.key, file] as const))),
  );
  /** The first of the files that become versions, by code. */
  const firstOfCode = computed(() => {
    const first = new Map<string, Arrival>();
    for (const { file } of pairs.value)
      if (!file.goesWith && !first.has(file.code.trim())) first.set(file.code.trim(), file);
    return first;
  });
  /** The file of this desk whose code an arrival shares, when it comes before as a version of its own. */
  function twinOf(arrival: Arrival): Arrival | undefined {
    const first = firstOfCode.value.get(arrival.code.trim());
    const isVersion = !arrival.goesWith && !shownOf.value.has(arrival.key);
    return first && first.key !== arrival.key && isVersion ? first : undefined;
  }

  async function deliverPart(folderId: string, part: Pair[]): Promise<void> {
    const files = part.map(({ file: arrival, natives }) => {
      const { uploadId, code, title, status, revision, classification, description, ownVersion } = arrival;
      const answers = numbersIn(arrival.answers);
      const metadata = arrival.goesWith ? {} : { title, status, revision, classification, description };
      // A twin follows the first of this desk, whatever number that gets.
      const onto = twinOf(arrival) ? {} : { onto: arrival.onto };
      const nativeUploadIds = natives.map((native) => native.uploadId);
      return {
        uploadId,
        code: code.trim(),
        ...metadata,
        ...onto,
        ownVersion,
        ...(answers.length && !arrival.goesWith && { answers }),
        ...(natives.length && { nativeUploadIds }),
      };
    });
    const answer = await call(deliver, { params: { projectId }, body: { folderId, files } });
    for (const { file, natives } of part) for (const arrival of [file, ...natives]) setState(arrival, 'delivered');
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
    arrivals,
    delivering,
    waiting: computed(() => counts.waiting + counts.arriving),
    arrived: computed(() => counts.arrived),
    add,
    takeBack,
    /** The folder of all of them; empty where they go to several. */
    folderId: computed(() => {
      const [first = '', ...others] = new Set(arrivals.value.map(({ folderId }) => folderId));
      return others.length ? '' : first;
    }),
    unplaced: computed(() => arrivals.value.some(({ folderId }) => !folderId)),
    propose: proposeFor,
    twinOf,
    shownOf: (arrival: Arrival): Arrival | undefined => shownOf.value.get(arrival.key),
    async asOwnVersion(arrival: Arrival): Promise<void> {
      arrival.ownVersion = true;
      await proposeFor([arrival]);
    },
    retry,
    remove,
    deliverArrived,
    /** Sends all of them to one folder, or those alone that have none yet. */
    moveTo(id: string, which: 'all' | 'unplaced' = 'all'): void {
      for (const arrival of arrivals.value) if (which === 'all' || !arrival.folderId) arrival.folderId = id;
    },
    verdictOf(arrival: Arrival) {
      const convention = conventionIn(arrival.folderId);
      return convention ? checkName(convention, arrival.code) : null;
    },
  });
}

/** A file that becomes a version, with those that belong to it. */
interface Pair {
  file: Arrival;
  natives: Arrival[];
}
const pairsOf = (arrivals: readonly Arrival[]): Pair[] =>
  withNatives(
    arrivals,
    ({ code }) => code.trim(),
    ({ fileName }) => fileName,
  );

/** Files of one code go one after the other: the later ones become the versions after. */
function rounds(ready: readonly Pair[]): Pair[][] {
  const result: Pair[][] = [];
  const times = new Map<string, number>();
  for (const pair of ready) {
    const code = pair.file.code.trim();
    const round = times.get(code) ?? 0;
    times.set(code, round + 1);
    (result[round] ??= []).push(pair);
  }
  return result;
}

function byFolder(pairs: readonly Pair[]): Map<string, Pair[]> {
  const folders = new Map<string, Pair[]>();
  for (const pair of pairs) {
    const list = folders.get(pair.file.folderId);
    if (list) list.push(pair);
    else folders.set(pair.file.folderId, [pair]);
  }
  return folders;
}
