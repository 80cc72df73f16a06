/** The intake, and the register as a list: filtered, sorted, grouped, kept as views, taken away as files. */
import { changeConvention, showNaming } from '@kindred/contract/naming/naming';
import {
  deliver,
  discardIntake,
  editContainers,
  groupContainers,
  listContainers,
  repairNames,
} from '@kindred/contract/register/register';
import { addSavedView, changeSavedView, listSavedViews } from '@kindred/contract/register/views';
import ExcelJS from '@protobi/exceljs';
import { describe, expect, it } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal } from './harness.ts';
import { unzip } from './unzip.ts';
import {
  DRAWINGS,
  text,
  server,
  project,
  architect,
  colleague,
  engineer,
  threePeople,
  nextCode,
  show,
  first,
} from './three-people.ts';

threePeople();

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
    const names = [...(await unzip(Buffer.from(await response.arrayBuffer()))).keys()];
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
    const mine = await architect.api.call(addSavedView, {
      params: project.params,
      body: { ...body, list: 'register' },
    });
    expect(
      await refusal(architect.api.call(addSavedView, { params: project.params, body: { ...body, list: 'register' } })),
    ).toMatchObject({
      code: 'name-taken',
    });
    expect(await engineer.api.call(listSavedViews, { params: project.params, query: { list: 'register' } })).toEqual(
      [],
    );
    const params = { ...project.params, viewId: mine.id };
    const wanted = { ...body, forAll: true, edition: mine.edition };
    await architect.api.call(changeSavedView, { params, body: wanted });
    expect(
      await engineer.api.call(listSavedViews, { params: project.params, query: { list: 'register' } }),
    ).toMatchObject([{ name: 'Mine', mine: false, owner: 'Ada Architect' }]);
    expect(await refusal(engineer.api.call(changeSavedView, { params, body: wanted }))).toMatchObject({
      status: 404,
    });
    expect(await refusal(architect.api.call(changeSavedView, { params, body: wanted }))).toMatchObject({
      status: 409,
    });
  });
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
