/** Versions that are somebody's alone, gates, reservations, two versions of one thing, what others get to see. */
import { listNotices, listOutbox } from '@kindred/contract/identity/identity';
import {
  changeMailChoices,
  listAuditTrail,
  listDeliveryWeeks,
  showDesk,
  showMailChoices,
} from '@kindred/contract/insight/insight';
import { changeConvention, showNaming } from '@kindred/contract/naming/naming';
import { addViewpoint, listViewpoints } from '@kindred/contract/scene/scene';
import { raiseIssue } from '@kindred/contract/issues/issues';
import { confirmSheets, listSheetRegister, listSheets } from '@kindred/contract/drawing/drawing';
import { jump, kin, listHistory } from '@kindred/contract/portfolio/portfolio';
import { listDeliveries, listUsed, showExchangeMatrix } from '@kindred/contract/register/exchange';
import {
  changeGates,
  decideVersion,
  deliver,
  discardIntake,
  editContainers,
  groupContainers,
  listContainers,
  lookUpCodes,
  moveStates,
  repairNames,
  reserveContainers,
  restoreVersion,
  showContainer,
  showGates,
} from '@kindred/contract/register/register';
import { addShareSet, listShareSets, removeShareSet } from '@kindred/contract/register/share-sets';
import { addRegisterView, changeRegisterView, listRegisterViews } from '@kindred/contract/register/views';
import { sendTransmittal } from '@kindred/contract/transmittal/transmittal';
import ExcelJS from 'exceljs';
import { PDFDocument, StandardFonts } from 'pdf-lib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import yauzl from 'yauzl';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { sendDailyMail } from '../../packages/server/src/identity/mail-choices.ts';
import { cleanUp } from '../../packages/server/src/register/clean-up.ts';
import {
  deliverFile,
  prepared,
  refusal,
  share,
  testProject,
  testServer,
  type TestProject,
  type TestServer,
} from './harness.ts';

let server: TestServer;
let project: TestProject;
let architect: { api: ApiPerson; id: string };
let colleague: { api: ApiPerson; id: string };
let engineer: { api: ApiPerson; id: string };

const DRAWINGS = 'Architecture / Drawings';
/** A PNG of one pixel. */
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==';
const text = (words: string): Uint8Array => new TextEncoder().encode(words);
let serial = 1000;
const nextCode = (): string => `ORP-TVA-ZZ-00-D-A-${++serial}`;

beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  architect = await project.join('Ada Architect', 'Author', 'Architecture');
  colleague = await project.join('Cleo Colleague', 'Author', 'Architecture');
  engineer = await project.join('Eve Engineer', 'Author', 'Structure');
});
afterAll(() => server.remove());

const show = (person: ApiPerson, containerId: string) =>
  person.call(showContainer, { params: { ...project.params, containerId } });
const deliverOnto = async (person: ApiPerson, code: string, words: string, onto?: number) => {
  const uploadId = await person.upload(project.projectId, `${code}.txt`, text(words));
  const { files } = await person.call(deliver, {
    params: project.params,
    body: {
      folderId: project.folders.get(DRAWINGS)!,
      files: [{ uploadId, code, ...(onto !== undefined && { onto }) }],
    },
  });
  return files[0]!;
};
const first = (code = nextCode(), words = 'first') => deliverOnto(architect.api, code, words);
const fileOf = async (person: ApiPerson, versionId: string): Promise<Response> =>
  fetch(`${server.address}/api/projects/${project.projectId}/versions/${versionId}/file`, {
    headers: person.headersForFiles(),
  });

describe('a newer version that is work in progress', () => {
  it('is for its team; all others go on seeing the shared one, by every path', async () => {
    const code = nextCode();
    const one = await first(code);
    expect(await refusal(show(engineer.api, one.containerId))).toMatchObject({ status: 404 });
    await share(project, architect.api, one.containerId);
    const two = await deliverOnto(architect.api, code, 'second');
    await architect.api.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, title: 'Secret pelican plan' }] },
    });

    expect((await show(architect.api, one.containerId)).container).toMatchObject({
      versionNumber: 2,
      state: 'work in progress',
    });
    const others = await show(engineer.api, one.containerId);
    expect(others.container).toMatchObject({ versionNumber: 1, state: 'shared', title: '' });
    expect(others.versions.map(({ number }) => number)).toEqual([1]);
    const { items } = await engineer.api.call(listContainers, { params: project.params, query: { q: code } });
    expect(items).toMatchObject([{ versionNumber: 1 }]);
    expect(
      (await engineer.api.call(listContainers, { params: project.params, query: { q: 'pelican' } })).items,
    ).toEqual([]);
    expect(await engineer.api.call(jump, { params: project.params, query: { q: 'pelican' } })).toEqual([]);
    const related = await engineer.api.call(kin, {
      params: project.params,
      query: { type: 'container', id: one.containerId },
    });
    expect(related.items.filter(({ type }) => type === 'version')).toHaveLength(1);
    const history = await engineer.api.call(listHistory, {
      params: project.params,
      query: { type: 'container', id: one.containerId },
    });
    expect(history.map(({ verb }) => verb)).toEqual(['shared']);
    expect((await fileOf(engineer.api, two.versionId)).status).toBe(404);
    expect((await fileOf(engineer.api, one.versionId)).status).toBe(200);
    const groups = await engineer.api.call(groupContainers, {
      params: project.params,
      query: { by: 'state', q: code },
    });
    expect(groups).toEqual([{ value: 'shared', label: '', count: 1 }]);
    expect(
      (await project.founder.call(listContainers, { params: project.params, query: { q: code } })).items,
    ).toMatchObject([{ versionNumber: 2 }]);

    await share(project, architect.api, one.containerId);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({
      versionNumber: 2,
      title: 'Secret pelican plan',
    });
    await architect.api.call(moveStates, {
      params: project.params,
      body: { containerIds: [one.containerId], action: 'withdraw', reason: 'Wrong grid' },
    });
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({ versionNumber: 1, state: 'shared' });
  });
});

describe('gates', () => {
  it('let all of a choice pass, or none, and say for each why not', async () => {
    const good = await first();
    const held = await first();
    await prepared(project, architect.api, held.containerId);
    await project.founder.call(raiseIssue, {
      params: project.params,
      body: {
        title: 'Stop',
        type: 'problem',
        priority: 'blocking',
        place: { versionId: held.versionId, page: 1, x: 1, y: 1 },
      },
    });
    const ids = [good.containerId, held.containerId];
    const move = (action: 'share' | 'publish') =>
      architect.api.call(moveStates, { params: project.params, body: { containerIds: ids, action } });
    await move('share');
    await prepared(project, architect.api, good.containerId);
    const refused = await refusal(move('publish'));
    expect(refused).toMatchObject({ code: 'gate-closed' });
    expect(refused.detail).toContain('blocking issue');
    expect((await show(architect.api, good.containerId)).container.state).toBe('shared');
  });

  it('are set by the project: the right that it takes, the statuses that fit', async () => {
    const { gates, edition } = await project.founder.call(showGates, { params: project.params });
    const strict = { ...gates, share: { ...gates.share, right: 'manage' as const, statuses: ['S1', 'S2'] } };
    await project.founder.call(changeGates, { params: project.params, body: { gates: strict, edition } });
    expect(
      await refusal(project.founder.call(changeGates, { params: project.params, body: { gates: strict, edition } })),
    ).toMatchObject({ status: 409 });
    const one = await first();
    expect(await refusal(share(project, architect.api, one.containerId))).toMatchObject({ status: 403 });
    const refused = await refusal(share(project, project.founder, one.containerId));
    expect(refused.detail).toContain('does not fit; what fits: S1, S2');
    await project.founder.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, status: 'S2' }] },
    });
    await share(project, project.founder, one.containerId);
    await project.founder.call(changeGates, { params: project.params, body: { gates, edition: edition + 1 } });
  });
});

describe('the line of versions', () => {
  it('goes on with an older one, metadata and all, and nothing is overwritten', async () => {
    const code = nextCode();
    const one = await first(code, 'the first words');
    const edit = (changes: { title?: string; revision?: string; description?: string }) =>
      architect.api.call(editContainers, {
        params: project.params,
        body: { edits: [{ containerId: one.containerId, ...changes }] },
      });
    await edit({ title: 'As designed', revision: 'P01', description: 'With the bay window' });
    await deliverOnto(architect.api, code, 'the second words');
    const { before } = await edit({ title: 'As changed', revision: 'P02' });
    expect(before).toEqual([{ containerId: one.containerId, title: 'As designed', revision: 'P01' }]);

    const params = { ...project.params, containerId: one.containerId };
    const restored = await architect.api.call(restoreVersion, { params, body: { number: 1 } });
    expect(restored).toMatchObject({
      versionNumber: 3,
      title: 'As designed',
      revision: 'P01',
      description: 'With the bay window',
    });
    const { versions } = await show(architect.api, one.containerId);
    expect(versions.map(({ number, restores, title }) => [number, restores, title])).toEqual([
      [3, 1, 'As designed'],
      [2, null, 'As changed'],
      [1, null, 'As designed'],
    ]);
    expect(versions[0]!.sha256).toBe(versions[2]!.sha256);
    expect(await refusal(architect.api.call(restoreVersion, { params, body: { number: 3 } }))).toMatchObject({
      code: 'current-already',
    });
    expect(await refusal(engineer.api.call(restoreVersion, { params, body: { number: 1 } }))).toMatchObject({
      status: 404,
    });
  });

  it('keeps both when somebody delivers over a version that is not the latest any more', async () => {
    const code = nextCode();
    const one = await first(code);
    await deliverOnto(colleague.api, code, 'by the colleague', 1);
    const late = await deliverOnto(architect.api, code, 'by the architect, late', 1);
    expect(late).toMatchObject({ versionNumber: 3, contested: true });
    const { container, versions } = await show(architect.api, one.containerId);
    expect(container).toMatchObject({ versionNumber: 2, contested: 1 });
    expect(versions.map(({ place }) => place)).toEqual(['contested', 'in line', 'in line']);
    expect((await colleague.api.call(listNotices)).items[0]!.text).toContain('stands beside the line');
    expect((await architect.api.call(showDesk)).filter(({ type }) => type === 'decision')).toHaveLength(1);

    // Others go on seeing what was shared, and hear nothing of the quarrel.
    await share(project, architect.api, one.containerId);
    expect((await show(engineer.api, one.containerId)).container).toMatchObject({ versionNumber: 2, contested: 0 });
    const decide = (number: number, decision: 'take' | 'set aside') =>
      architect.api.call(decideVersion, {
        params: { ...project.params, containerId: one.containerId },
        body: { number, decision },
      });
    expect(await refusal(decide(2, 'take'))).toMatchObject({ code: 'not-contested' });
    expect(await decide(3, 'take')).toMatchObject({ versionNumber: 3, contested: 0 });

    const later = await deliverOnto(colleague.api, code, 'late again', 2);
    await deliverOnto(architect.api, code, 'meanwhile', 3);
    expect(later).toMatchObject({ versionNumber: 4, contested: true });
    expect(await decide(4, 'take')).toMatchObject({ versionNumber: 6, contested: 0 });
    const taken = await show(architect.api, one.containerId);
    expect(taken.versions[0]).toMatchObject({ number: 6, restores: 4 });
    expect(taken.versions).toHaveLength(6);
  });

  it('is reserved by one person: a version by another stands beside it', async () => {
    const code = nextCode();
    const one = await first(code);
    const ids = [one.containerId];
    const reserve = (person: ApiPerson, wanted: boolean) =>
      person.call(reserveContainers, { params: project.params, body: { containerIds: ids, reserve: wanted } });
    await reserve(architect.api, true);
    expect((await show(colleague.api, one.containerId)).container.reservedBy).toBe('Ada Architect');
    expect(await colleague.api.call(lookUpCodes, { params: project.params, body: { codes: [code] } })).toMatchObject([
      { reservedBy: 'Ada Architect' },
    ]);
    expect(await refusal(reserve(colleague.api, true))).toMatchObject({ code: 'reserved' });
    expect(await refusal(reserve(colleague.api, false))).toMatchObject({ code: 'reserved' });
    expect(await deliverOnto(colleague.api, code, 'over a reservation')).toMatchObject({ contested: true });
    expect(
      await refusal(
        colleague.api.call(restoreVersion, {
          params: { ...project.params, containerId: one.containerId },
          body: { number: 1 },
        }),
      ),
    ).toMatchObject({ code: 'reserved' });
    await architect.api.call(decideVersion, {
      params: { ...project.params, containerId: one.containerId },
      body: { number: 2, decision: 'set aside' },
    });
    expect(await deliverOnto(architect.api, code, 'by whoever reserved it')).toMatchObject({ contested: false });
    expect((await show(colleague.api, one.containerId)).container.reservedBy).toBeNull();
    await reserve(architect.api, true);
    await reserve(project.founder, false);
    expect((await architect.api.call(listNotices)).items[0]!.text).toContain('released your reservation');
  });
});

describe('the intake', () => {
  it('is repaired many at once: the right ones go, the wrong ones stay with a reason', async () => {
    const code = nextCode();
    const known = await first(code);
    const lost = [];
    for (const name of ['plan ground floor', 'plan roof', 'plan roof copy']) lost.push(await first(name, name));
    expect(lost.every(({ atIntake }) => atIntake)).toBe(true);
    const fresh = nextCode();
    const outcomes = await project.founder.call(repairNames, {
      params: project.params,
      body: {
        repairs: [
          { containerId: lost[0]!.containerId, code, asVersion: true, revision: 'P09' },
          { containerId: lost[1]!.containerId, code: fresh, title: 'Roof', status: 'S1' },
          { containerId: lost[2]!.containerId, code: fresh },
        ],
      },
    });
    expect(outcomes.map(({ problem }) => problem)).toEqual([null, null, expect.stringContaining('two files')]);
    expect(outcomes[0]).toMatchObject({ containerId: known.containerId, versionOf: code });
    const { container, versions } = await show(architect.api, known.containerId);
    expect(container).toMatchObject({ versionNumber: 2, revision: 'P09' });
    expect(versions).toHaveLength(2);
    expect((await show(architect.api, lost[1]!.containerId)).container).toMatchObject({
      code: fresh,
      title: 'Roof',
      atIntake: false,
    });
    expect((await show(architect.api, lost[2]!.containerId)).container.atIntake).toBe(true);
    await architect.api.call(discardIntake, { params: { ...project.params, containerId: lost[2]!.containerId } });
    expect(await refusal(show(architect.api, lost[2]!.containerId))).toMatchObject({ status: 404 });
    expect(
      await refusal(
        architect.api.call(discardIntake, { params: { ...project.params, containerId: known.containerId } }),
      ),
    ).toMatchObject({ code: 'not-at-intake' });
  });

  it('is seen by whoever manages the register, of whatever team, and by nobody else', async () => {
    const lost = await first('without a proper name');
    const coordinator = await project.join('Cora Coordinator', 'Coordinator', 'Structure');
    const seen = async (person: ApiPerson) =>
      (await person.call(listContainers, { params: project.params, query: { intake: true } })).items.map(
        ({ id }) => id,
      );
    expect(await seen(coordinator.api)).toContain(lost.containerId);
    expect((await show(coordinator.api, lost.containerId)).versions).toHaveLength(1);
    expect(await seen(colleague.api)).not.toContain(lost.containerId);
    const wip = await first();
    expect(await refusal(show(coordinator.api, wip.containerId))).toMatchObject({ status: 404 });
    await architect.api.call(discardIntake, { params: { ...project.params, containerId: lost.containerId } });
  });

  it('takes two normal forms of one name for the same name', async () => {
    const composed = 'pl\u00e4ne';
    const decomposed = 'pla\u0308ne';
    const uploads = await Promise.all(
      [1, 2].map((n) => architect.api.upload(project.projectId, `x${n}.txt`, text('x'))),
    );
    const body = {
      folderId: project.folders.get(DRAWINGS)!,
      files: [
        { uploadId: uploads[0]!, code: composed },
        { uploadId: uploads[1]!, code: decomposed },
      ],
    };
    expect(await refusal(architect.api.call(deliver, { params: project.params, body }))).toMatchObject({
      code: 'code-twice',
    });
    const one = await first(composed);
    expect(await first(decomposed)).toMatchObject({ containerId: one.containerId, versionNumber: 2 });
  });
});

describe('the register', () => {
  it('filters by every field, parts of the code among them, and counts by group', async () => {
    const one = await first('ORP-TVA-ZZ-01-R-A-7001');
    await first('ORP-TVA-ZZ-01-R-A-7002');
    await first('ORP-TVA-ZZ-00-D-A-7003');
    await architect.api.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, status: 'S3', revision: 'P07', classification: 'X-1' }] },
    });
    const codes = async (query: Record<string, string | boolean>) =>
      (await architect.api.call(listContainers, { params: project.params, query })).items.map(({ code }) =>
        code.slice(-4),
      );
    const fields = JSON.stringify({ Form: 'R', Space: '01' });
    expect(await codes({ fields })).toEqual(['7001', '7002']);
    expect(await codes({ fields, status: 'S3,S4' })).toEqual(['7001']);
    expect(await codes({ fields, revision: 'P07', classification: 'X-1', deliveredBy: architect.id })).toEqual([
      '7001',
    ]);
    expect(await codes({ fields, deliveredBefore: '2001-01-01T00:00:00Z' })).toEqual([]);
    expect(await codes({ fields, folderId: project.folders.get('Architecture')!, deep: true })).toEqual([
      '7001',
      '7002',
    ]);
    expect(await codes({ fields, folderId: project.folders.get('Architecture')! })).toEqual([]);
    expect(await codes({ fields, sort: 'status', descending: true })).toEqual(['7001', '7002']);
    expect(await refusal(codes({ fields: '{"Form":1}' }))).toMatchObject({ code: 'bad-fields' });
    const groups = await architect.api.call(groupContainers, {
      params: project.params,
      query: { by: 'field:Form', q: '700' },
    });
    expect(groups).toEqual([
      { value: 'R', label: '', count: 2 },
      { value: 'D', label: '', count: 1 },
    ]);
    expect(
      await refusal(architect.api.call(groupContainers, { params: project.params, query: { by: 'sha256' } })),
    ).toMatchObject({ code: 'bad-group' });
  });

  it('pages by every sort without losing or repeating a row', async () => {
    for (const sort of ['code', 'title', 'deliveredAt', 'status', 'state', 'kind'] as const)
      for (const descending of [false, true]) {
        const seen: string[] = [];
        let after: string | null | undefined;
        do {
          const page = await architect.api.call(listContainers, {
            params: project.params,
            query: { sort, descending, limit: 4, ...(after && { after }) },
          });
          seen.push(...page.items.map(({ id }) => id));
          after = page.next;
        } while (after);
        const { items } = await architect.api.call(listContainers, { params: project.params, query: { limit: 200 } });
        expect(new Set(seen).size).toBe(seen.length);
        expect([...seen].sort()).toEqual(items.map(({ id }) => id).sort());
      }
  });

  it('leaves as CSV and XLSX in which formulas are text', async () => {
    const one = await first('ORP-TVA-ZZ-00-L-A-7100');
    const title = '=HYPERLINK("http://x.example","pay")';
    await architect.api.call(editContainers, {
      params: project.params,
      body: { edits: [{ containerId: one.containerId, title }] },
    });
    const file = async (as: string) =>
      fetch(`${server.address}/api/projects/${project.projectId}/register-export?as=${as}&q=7100`, {
        headers: architect.api.headersForFiles(),
      });
    const csv = await (await file('csv')).text();
    expect(csv.split('\r\n')[1]).toContain(`"'=HYPERLINK`);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(await (await file('xlsx')).arrayBuffer());
    const row = workbook.worksheets[0]!.getRow(2);
    expect(row.getCell(1).value).toBe('ORP-TVA-ZZ-00-L-A-7100');
    expect(row.getCell(2).value).toBe(title);
    expect(row.getCell(2).formula).toBeUndefined();
  });

  it('gives many files as one zip with an index', async () => {
    const two = [await first('ORP-TVA-ZZ-00-L-A-7201', 'aaa'), await first('ORP-TVA-ZZ-00-L-A-7202', 'bbb')];
    const address = `${server.address}/api/projects/${project.projectId}/files?versionIds=`;
    const ids = two.map(({ versionId }) => versionId).join();
    const response = await fetch(address + ids, { headers: architect.api.headersForFiles() });
    const names = await zipNames(Buffer.from(await response.arrayBuffer()));
    expect(names.sort()).toEqual([
      'ORP-TVA-ZZ-00-L-A-7201.txt',
      'ORP-TVA-ZZ-00-L-A-7202.txt',
      'SHA256SUMS',
      'index.csv',
    ]);
    expect((await fetch(address + ids, { headers: engineer.api.headersForFiles() })).status).toBe(404);
  });

  it('keeps views, one’s own and those offered to all', async () => {
    const body = {
      name: 'Mine',
      forAll: false,
      definition: { filters: { status: 'S3' }, columns: ['code', 'status'], groupBy: 'status' },
    };
    const mine = await architect.api.call(addRegisterView, { params: project.params, body });
    expect(await refusal(architect.api.call(addRegisterView, { params: project.params, body }))).toMatchObject({
      code: 'name-taken',
    });
    expect(await engineer.api.call(listRegisterViews, { params: project.params })).toEqual([]);
    const params = { ...project.params, viewId: mine.id };
    const wanted = { ...body, forAll: true, edition: mine.edition };
    await architect.api.call(changeRegisterView, { params, body: wanted });
    expect(await engineer.api.call(listRegisterViews, { params: project.params })).toMatchObject([
      { name: 'Mine', mine: false, owner: 'Ada Architect' },
    ]);
    expect(await refusal(engineer.api.call(changeRegisterView, { params, body: wanted }))).toMatchObject({
      status: 404,
    });
    expect(await refusal(architect.api.call(changeRegisterView, { params, body: wanted }))).toMatchObject({
      status: 409,
    });
  });
});

async function zipNames(bytes: Buffer): Promise<string[]> {
  return new Promise((resolve, reject) =>
    yauzl.fromBuffer(bytes, { lazyEntries: false }, (error, zip) => {
      if (error) return reject(error);
      const names: string[] = [];
      zip.on('entry', ({ fileName }: { fileName: string }) => names.push(fileName)).on('end', () => resolve(names));
    }),
  );
}

async function drawing(sheets: { number: string; title: string }[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const { number, title } of sheets) {
    const page = pdf.addPage([1190, 842]);
    const write = (words: string, x: number, y: number, size: number) => page.drawText(words, { x, y, size, font });
    write('Drawing title', 900, 120, 7);
    write(title, 900, 104, 14);
    write('Drawing No.', 900, 84, 7);
    write(number, 900, 66, 14);
    write('Rev', 1080, 84, 7);
    write('P01', 1080, 66, 14);
    write('Scale', 1130, 84, 7);
    write('1:50', 1130, 66, 14);
  }
  return pdf.save();
}

describe('sheets and share sets', () => {
  it('are read from title blocks, corrected, and only the chosen ones go to others', async () => {
    const code = nextCode();
    const sheets = [
      { number: 'A-101', title: 'Ground floor plan' },
      { number: 'A-102', title: 'First floor plan' },
      { number: 'A-103', title: 'Roof plan' },
    ];
    const { containerId, versionId } = await deliverFile(
      project,
      architect.api,
      DRAWINGS,
      `${code}.pdf`,
      await drawing(sheets),
    );
    await prepared(project, architect.api, containerId);
    const params = { ...project.params, versionId };
    const found = await architect.api.call(listSheets, { params });
    expect(
      found.map(({ number, title, revision, scale, confirmed }) => [number, title, revision, scale, confirmed]),
    ).toEqual(sheets.map(({ number, title }) => [number, title, 'P01', '1:50', false]));
    const corrected = found.map(({ page, number, title, revision, status, scale, date }) => ({
      page,
      number,
      title: page === 3 ? 'Plan of the roofs' : title,
      revision,
      status,
      scale,
      date,
    }));
    await architect.api.call(confirmSheets, { params, body: { sheets: corrected } });
    expect(
      (await architect.api.call(listSheetRegister, { params: project.params, query: { q: 'roofs' } }))[0],
    ).toMatchObject({
      number: 'A-103',
      confirmed: true,
    });

    const set = await architect.api.call(addShareSet, {
      params: project.params,
      body: {
        teamId: project.teams.get('Architecture')!,
        name: 'For structure',
        sheetNumbers: ['A-102'],
        viewpointIds: [],
      },
    });
    expect(await engineer.api.call(listShareSets, { params: project.params })).toEqual([]);
    await architect.api.call(moveStates, {
      params: project.params,
      body: { containerIds: [containerId], action: 'share', shareSetId: set.id },
    });
    expect((await engineer.api.call(listSheets, { params })).map(({ number }) => number)).toEqual(['A-102']);
    expect(
      await engineer.api.call(listSheetRegister, { params: project.params, query: { q: 'floor plan' } }),
    ).toHaveLength(1);
    expect(
      await architect.api.call(listSheetRegister, { params: project.params, query: { q: 'floor plan' } }),
    ).toHaveLength(2);
    // Nor by sending the whole of it to oneself.
    const body = {
      title: 'All of it',
      reason: 'for information' as const,
      versionIds: [versionId],
      personIds: [engineer.id],
      partyIds: [],
      recipientsSeeEachOther: true,
    };
    const sending = await refusal(engineer.api.call(sendTransmittal, { params: project.params, body }));
    expect(sending.detail).toContain('in part only');
    let response = await fileOf(engineer.api, versionId);
    for (let tries = 0; response.status === 409 && tries < 100; tries++) {
      await new Promise((resolve) => setTimeout(resolve, 100));
      response = await fileOf(engineer.api, versionId);
    }
    const shared = Buffer.from(await response.arrayBuffer());
    const original = Buffer.from(await (await fileOf(architect.api, versionId)).arrayBuffer());
    expect((await PDFDocument.load(shared)).getPageCount()).toBe(3);
    expect(shared.equals(original)).toBe(false);
    expect(
      await refusal(architect.api.call(removeShareSet, { params: { ...project.params, shareSetId: set.id } })),
    ).toMatchObject({
      code: 'share-set-used',
    });

    // The next version says the same in its title blocks: nobody has to look again, except where it says something else.
    const next = await deliverFile(
      project,
      architect.api,
      DRAWINGS,
      `${code}.pdf`,
      await drawing([sheets[0]!, sheets[1]!, { number: 'A-104', title: 'New' }]),
    );
    await prepared(project, architect.api, containerId);
    const again = await architect.api.call(listSheets, { params: { ...project.params, versionId: next.versionId } });
    expect(again.map(({ confirmed }) => confirmed)).toEqual([true, true, false]);
  });
});

it('a share set chooses viewpoints too: the others stay with the team', async () => {
  const models = project.folders.get('Architecture / Models')!;
  const code = 'ORP-TVA-ZZ-ZZ-M-A-8001';
  const uploadId = await architect.api.upload(project.projectId, `${code}.txt`, text('a model, as far as this goes'));
  const { files } = await architect.api.call(deliver, {
    params: project.params,
    body: { folderId: models, files: [{ uploadId, code }] },
  });
  const [{ containerId, versionId }] = files as [(typeof files)[number]];
  const picture = `data:image/png;base64,${PIXEL}`;
  const camera = { position: [0, 0, 1], target: [0, 0, 0], fieldOfView: 60 } as never;
  const state = { camera, sections: [], hidden: [], isolated: null, selection: [] };
  const save = (name: string) =>
    architect.api.call(addViewpoint, {
      params: project.params,
      body: { name, state, versionIds: [versionId], picture },
    });
  const [shown] = [await save('For all'), await save('For us')];
  const set = await architect.api.call(addShareSet, {
    params: project.params,
    body: {
      teamId: project.teams.get('Architecture')!,
      name: 'One viewpoint',
      sheetNumbers: [],
      viewpointIds: [shown!.id],
    },
  });
  await architect.api.call(moveStates, {
    params: project.params,
    body: { containerIds: [containerId], action: 'share', shareSetId: set.id },
  });
  const names = async (person: ApiPerson) =>
    (await person.call(listViewpoints, { params: project.params })).map(({ name }) => name).sort();
  expect(await names(architect.api)).toEqual(['For all', 'For us']);
  expect(await names(engineer.api)).toEqual(['For all']);
});

it('parts of codes follow the convention: a field that is renamed is found under its new name', async () => {
  const { conventions } = await project.founder.call(showNaming, { params: project.params });
  const { id, edition, definition } = conventions.find(({ isDefault }) => isDefault)!;
  const renamed = (from: string, to: string) => ({
    ...definition,
    fields: definition.fields.map((field) => (field.name === from ? { ...field, name: to } : field)),
  });
  const params = { ...project.params, conventionId: id };
  const groups = (by: string) =>
    architect.api.call(groupContainers, { params: project.params, query: { by: `field:${by}` } });
  const before = await groups('Form');
  const body = { edition, definition: renamed('Form', 'Document form') };
  await project.founder.call(changeConvention, { params, body });
  expect(await groups('Document form')).toEqual(before);
  expect((await groups('Form')).map(({ value }) => value)).toEqual(['']);
  await project.founder.call(changeConvention, { params, body: { edition: edition + 1, definition } });
  expect(await groups('Form')).toEqual(before);
});

describe('the exchange', () => {
  it('shows deliveries without what is private, and how far behind each team is', async () => {
    const code = nextCode();
    const one = await first(code);
    await share(project, architect.api, one.containerId);
    await fileOf(engineer.api, one.versionId);
    for (const words of ['two', 'three']) {
      await deliverOnto(architect.api, code, words);
      await share(project, architect.api, one.containerId);
    }
    await deliverOnto(architect.api, code, 'four, private');
    const teams = { provider: project.teams.get('Architecture')!, user: project.teams.get('Structure')! };
    const matrix = await engineer.api.call(showExchangeMatrix, { params: project.params });
    expect(matrix.find(({ provider, user }) => provider === teams.provider && user === teams.user)).toMatchObject({
      most: 2,
    });
    const used = await engineer.api.call(listUsed, { params: { ...project.params, ...teams } });
    expect(used.find((row) => row.code === code)).toMatchObject({ taken: 1, newest: 3, behind: 2, how: 'downloaded' });
    expect((await engineer.api.call(listNotices)).items[0]!.text).toContain('You took version 1');

    await project.founder.call(sendTransmittal, {
      params: project.params,
      body: {
        title: 'The newest',
        reason: 'for information',
        versionIds: [(await show(engineer.api, one.containerId)).container.versionId],
        personIds: [engineer.id],
        partyIds: [],
        recipientsSeeEachOther: true,
      },
    });
    const sent = await engineer.api.call(listUsed, { params: { ...project.params, ...teams } });
    expect(sent.find((row) => row.code === code)).toMatchObject({ taken: 3, behind: 0, how: 'received' });

    const span = { from: '2000-01-01T00:00:00Z', to: '2100-01-01T00:00:00Z' };
    const count = (rows: { files: number }[]) => rows.reduce((sum, { files }) => sum + files, 0);
    const mine = await architect.api.call(listDeliveries, { params: project.params, query: span });
    const theirs = await engineer.api.call(listDeliveries, { params: project.params, query: span });
    expect(mine.some((delivery) => delivery.private > 0)).toBe(true);
    expect(theirs.every((delivery) => delivery.private === 0)).toBe(true);
    expect(count(theirs)).toBeLessThan(count(mine));
    const weeks = await architect.api.call(listDeliveryWeeks, { params: project.params });
    expect(count(weeks)).toBeGreaterThanOrEqual(count(mine));
    expect(weeks[0]!.misnamed).toBeGreaterThan(0);
  });
});

describe('what people are told', () => {
  it('comes by mail at once, once a day or not at all, as each chooses', async () => {
    const choices = await engineer.api.call(showMailChoices);
    expect(choices.delivery).toBe('daily');
    await engineer.api.call(changeMailChoices, { body: { ...choices, issue: 'never', review: 'daily' } });
    const raise = () =>
      project.founder.call(raiseIssue, {
        params: project.params,
        body: { title: 'Look here', type: 'question', priority: 'normal', assigneeId: engineer.id },
      });
    const before = (await engineer.api.call(listOutbox)).length;
    await raise();
    expect((await engineer.api.call(listOutbox)).length).toBe(before);
    expect((await engineer.api.call(listNotices)).items[0]!.text).toContain('Look here');
    await engineer.api.call(changeMailChoices, { body: { ...choices, issue: 'daily' } });
    await raise();
    await raise();
    expect(await sendDailyMail(server.platform.outbox, server.platform.db)).toBeGreaterThan(0);
    const mails = await engineer.api.call(listOutbox);
    expect(mails).toHaveLength(before + 1);
    expect(mails[0]!.text.match(/Look here/g)).toHaveLength(2);
    expect(await sendDailyMail(server.platform.outbox, server.platform.db)).toBe(0);
    expect(
      (await engineer.api.call(showDesk)).filter(({ pile, type }) => pile === 'waiting for me' && type === 'issue'),
    ).toHaveLength(3);
  });

  it('is written down: the audit trail, for administrators', async () => {
    expect(await refusal(architect.api.call(listAuditTrail, { params: project.params }))).toMatchObject({
      status: 403,
    });
    const { items } = await project.founder.call(listAuditTrail, {
      params: project.params,
      query: { personId: architect.id, subjectType: 'container', q: 'made current again' },
    });
    expect(items[0]).toMatchObject({ verb: 'version 1 made current again', after: { revision: 'P01' } });
    const response = await fetch(`${server.address}/api/projects/${project.projectId}/audit-trail-export`, {
      headers: project.founder.headersForFiles(),
    });
    expect((await response.text()).split('\r\n').length).toBeGreaterThan(50);
  });
});

it('the clean-up removes what nothing names, and nothing else', async () => {
  const one = await first(nextCode(), 'kept for good');
  await architect.api.upload(project.projectId, 'left.txt', text('never delivered'));
  expect(await cleanUp(server.platform)).toEqual({ uploads: 0, blobs: 0 });
  const removed = await cleanUp(server.platform, -1);
  expect(removed.uploads).toBeGreaterThan(0);
  expect(removed.blobs).toBeGreaterThan(0);
  expect(await (await fileOf(architect.api, one.versionId)).text()).toBe('kept for good');
});
