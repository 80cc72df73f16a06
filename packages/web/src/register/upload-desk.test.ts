import { deliver, lookUpCodes } from '@kindred/contract/register/register';
import { discardUpload } from '@kindred/contract/register/uploads';
import { STARTER_REVISIONS } from '@kindred/core/register/revision';
import { beforeEach, describe, expect, it, vi } from 'vitest';

interface Options {
  onSuccess(): void;
  onError(error: Error): void;
  metadata: { filename: string };
}
/** Uploads that ended well, those that shall break off by name, and how many ran at once. */
const sent: string[] = [];
const breaking = new Set<string>();
let [running, most] = [0, 0];
vi.mock('tus-js-client', () => ({
  Upload: class {
    url = '';
    constructor(
      _file: File,
      private readonly options: Options,
    ) {}
    findPreviousUploads = () => Promise.resolve([]);
    abort = () => Promise.resolve();
    start(): void {
      const { filename } = this.options.metadata;
      most = Math.max(most, ++running);
      setTimeout(() => {
        running--;
        if (breaking.has(filename))
          return this.options.onError(Object.assign(new Error('cut off'), { originalResponse: { getBody: () => '' } }));
        this.url = `/api/uploads/id-${filename}`;
        sent.push(filename);
        this.options.onSuccess();
      });
    }
  },
}));
const known = vi.fn(() => [] as object[]);
const delivered: { code: string; onto?: number; uploadId: string; nativeUploadIds?: string[] }[][] = [];
const places: string[] = [];
const discarded: string[] = [];
vi.mock('../platform/api.ts', () => ({
  getCsrfToken: () => 'token',
  call: (
    operation: unknown,
    {
      params,
      body,
    }: {
      params: { projectId: string; uploadId: string };
      body: { folderId: string; files: (typeof delivered)[number] };
    },
  ) => {
    if (operation === lookUpCodes) return Promise.resolve(known());
    if (operation === discardUpload) return Promise.resolve(discarded.push(params.uploadId));
    expect(operation).toBe(deliver);
    delivered.push(body.files);
    places.push(`${params.projectId} ${body.folderId} ${body.files.map(({ code }) => code).join()}`);
    return Promise.resolve({ files: body.files.map(() => ({ atIntake: false, conflicting: false })) });
  },
}));
vi.mock('../platform/say.ts', () => ({
  sayDone: () => undefined,
  sayProblem: (error: unknown) => expect.fail(String(error)),
}));
const { createUploadDesk } = await import('./upload-desk.ts');
const { UploadQueue } = await import('./upload-queue.ts');

const newDesk = (queue = new UploadQueue(), projectId = 'p') =>
  createUploadDesk({ projectId, queue, conventionIn: () => undefined, revisions: () => STARTER_REVISIONS });

const newest = { fileName: 'A-1.pdf', state: 'shared', natives: [] };
const toF = () => 'f';
const file = (name: string, size = 1): File => new File(['x'.repeat(size)], name);
const settled = (uploads: ReturnType<typeof newDesk>) => vi.waitFor(() => expect(uploads.waiting).toBe(0));
beforeEach(() => {
  sent.length = delivered.length = most = 0;
  breaking.clear();
  known.mockReturnValue([]);
});

describe('files on their way in', () => {
  it('go a few at a time, in the order of the drop; what is empty is told at once', async () => {
    const uploads = newDesk();
    const names = Array.from({ length: 8 }, (_, i) => `file-${i}.pdf`);
    uploads.add([...names.map((name) => file(name)), file('empty.pdf', 0)], toF);
    const empty = uploads.arrivals.at(-1)!;
    expect([empty.state, empty.problem]).toEqual(['refused', expect.stringContaining('empty')]);
    await settled(uploads);
    expect(sent).toEqual(names);
    expect(most).toBe(3);
    expect(uploads.arrived).toBe(8);
  });

  it('that broke off can be tried again, and say what is safe', async () => {
    const uploads = newDesk();
    breaking.add('b.pdf');
    uploads.add([file('a.pdf'), file('b.pdf')], toF);
    await settled(uploads);
    const broken = uploads.arrivals[1]!;
    expect([broken.state, broken.problem]).toEqual(['refused', expect.stringContaining('What has arrived is kept')]);
    breaking.clear();
    uploads.retry(broken);
    await settled(uploads);
    expect([broken.state, broken.uploadId]).toEqual(['arrived', 'id-b.pdf']);
  });

  it('are proposed what the register knows, apart from what the person wrote', async () => {
    const uploads = newDesk();
    const metadata = { title: 'Known', status: 'S3', classification: 'K20', revision: 'P02', reservedBy: 'Cleo' };
    known.mockReturnValue([{ code: 'A-1', versionNumber: 2, nextNumber: 4, ...newest, ...metadata }]);
    uploads.add([file('A-1.pdf'), file('A-2.pdf')], toF);
    await settled(uploads);
    const [one, two] = uploads.arrivals;
    expect(one).toMatchObject({ title: 'Known', status: 'S3', revision: 'P03', version: 4, reservedBy: 'Cleo' });
    expect(two).toMatchObject({ title: '', status: 'S0', version: 1, reservedBy: '' });
    one!.title = 'Mine';
    await uploads.propose(uploads.arrivals);
    expect(one!.title).toBe('Mine');
  });

  it('that come after their drawing go with it, or become versions where the person wants so', async () => {
    const uploads = newDesk();
    const drawing = { ...newest, state: 'work in progress', title: 'Known' };
    known.mockReturnValue([{ code: 'A-1', versionNumber: 2, nextNumber: 3, revision: 'P02', ...drawing }]);
    uploads.add([file('A-1.xyz'), file('A-1.txt')], toF);
    await settled(uploads);
    const [one, two] = uploads.arrivals;
    expect(one).toMatchObject({ goesWith: 'A-1.pdf', version: 2, revision: 'P02' });
    expect(uploads.twinOf(two!)).toBeUndefined();
    await uploads.asOwnVersion(two!);
    expect(two).toMatchObject({ goesWith: '', version: 3, revision: 'P03' });
    delivered.length = 0;
    await uploads.deliverArrived();
    expect(delivered.flat()).toEqual([
      { uploadId: 'id-A-1.xyz', code: 'A-1', onto: 2, ownVersion: false },
      expect.objectContaining({ uploadId: 'id-A-1.txt', ownVersion: true, revision: 'P03' }),
    ]);
  });

  it('of one code follow each other, each delivery after the one before', async () => {
    const uploads = newDesk();
    known.mockReturnValue([{ code: 'A-1', versionNumber: 2, nextNumber: 4, ...newest, revision: 'P02', title: '' }]);
    uploads.add([file('A-1.pdf'), file('A-2.pdf'), file('A-1.ifc'), file('A-1.txt')], toF);
    await settled(uploads);
    expect(uploads.twinOf(uploads.arrivals[0]!)).toBeUndefined();
    expect(uploads.twinOf(uploads.arrivals[2]!)).toMatchObject({ fileName: 'A-1.pdf' });
    expect(uploads.shownOf(uploads.arrivals[3]!)).toMatchObject({ fileName: 'A-1.pdf' });
    expect(uploads.twinOf(uploads.arrivals[3]!)).toBeUndefined();
    await uploads.deliverArrived();
    // The first was made from version 2, as far as this person knows; its twins follow it whatever number it gets.
    expect(
      delivered.map((files) => files.map(({ uploadId, onto, nativeUploadIds }) => [uploadId, onto, nativeUploadIds])),
    ).toEqual([
      [
        ['id-A-1.pdf', 2, ['id-A-1.txt']],
        ['id-A-2.pdf', 0, undefined],
      ],
      [['id-A-1.ifc', undefined, undefined]],
    ]);
    expect(uploads.arrivals).toEqual([]);
  });

  it('are taken out of the queue without stopping it', async () => {
    const uploads = newDesk();
    uploads.add(
      Array.from({ length: 6 }, (_, i) => file(`${i}.pdf`)),
      toF,
    );
    await uploads.remove(uploads.arrivals[0]!);
    await uploads.remove(uploads.arrivals[3]!);
    await settled(uploads);
    expect(uploads.arrivals.map(({ fileName, state }) => `${fileName} ${state}`)).toEqual([
      '1.pdf arrived',
      '2.pdf arrived',
      '3.pdf arrived',
      '5.pdf arrived',
    ]);
  });

  it('go to the project and folder that they were chosen for, whatever is opened meanwhile', async () => {
    const queue = new UploadQueue();
    const [one, other] = [newDesk(queue, 'p'), newDesk(queue, 'q')];
    one.add([file('a.pdf')], toF);
    other.add([file('b.pdf')], () => 'g');
    one.add([file('c.pdf')], toF);
    await settled(one);
    await settled(other);
    await one.deliverArrived();
    other.moveTo('h');
    await other.deliverArrived();
    expect(places.slice(-2)).toEqual(['p f a,c', 'q h b']);
  });

  it('go each to the folder that their code names, and are delivered there', async () => {
    const uploads = newDesk();
    uploads.add([file('D-1.pdf'), file('M-1.ifc'), file('D-2.pdf')], (code) =>
      code.startsWith('M') ? 'models' : 'drawings',
    );
    expect(uploads.folderId).toBe('');
    await settled(uploads);
    places.length = 0;
    await uploads.deliverArrived();
    expect(places).toEqual(['p drawings D-1,D-2', 'p models M-1']);
  });

  it('that were dropped while the server was asked what waits there do not come back a second time', async () => {
    const uploads = newDesk();
    uploads.add([file('A-1.pdf')], toF);
    const { size } = uploads.arrivals[0]!;
    const waiting = [{ id: 'u1', fileName: 'A-1.pdf', size, arrived: false, createdAt: '2026-11-25T10:00:00Z' }];
    uploads.takeBack(waiting, toF, () => undefined);
    expect(uploads.arrivals).toHaveLength(1);
    await settled(uploads);
  });

  it('that arrived before the page was loaded anew come back with what was written of them, others once they are dropped again', async () => {
    const uploads = newDesk();
    const at = { size: 1, createdAt: '2026-11-25T10:00:00Z' };
    const waiting = [
      { id: 'u1', fileName: 'A-1.pdf', arrived: true, ...at },
      { id: 'u2', fileName: 'A-2.pdf', arrived: false, ...at },
    ];
    uploads.takeBack(waiting, toF, (id) => (id === 'u1' ? { title: 'Ground floor', folderId: 'g' } : undefined));
    uploads.takeBack(waiting.slice(0, 1), toF, () => undefined);
    expect(uploads.arrivals.map(({ state, title, folderId }) => [state, title, folderId])).toEqual([
      ['arrived', 'Ground floor', 'g'],
      ['refused', '', 'f'],
    ]);
    uploads.arrivals[1]!.title = 'Upper floor';
    uploads.add([file('A-2.pdf')], toF);
    await settled(uploads);
    expect(uploads.arrivals.map(({ state, title }) => [state, title])).toEqual([
      ['arrived', 'Ground floor'],
      ['arrived', 'Upper floor'],
    ]);
    await uploads.remove(uploads.arrivals[0]!);
    expect(discarded).toEqual(['u1']);
  });

  it('a native file whose drawing broke off waits for it', async () => {
    const uploads = newDesk();
    breaking.add('A-1.pdf');
    uploads.add([file('A-1.pdf'), file('A-1.txt'), file('A-2.pdf')], toF);
    await settled(uploads);
    await uploads.deliverArrived();
    expect(delivered.flat().map(({ code }) => code)).toEqual(['A-2']);
    breaking.clear();
    uploads.retry(uploads.arrivals[0]!);
    await settled(uploads);
    await uploads.deliverArrived();
    expect(delivered.flat().at(-1)).toMatchObject({ code: 'A-1', nativeUploadIds: ['id-A-1.txt'] });
    expect(uploads.arrivals).toEqual([]);
  });
});
