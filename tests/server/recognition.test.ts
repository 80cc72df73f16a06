/** Words of a scan are recognised after it is ready; they are found, and count for nothing until somebody has looked at them. */
import { confirmSheets, findWords, listRecognisedWords, listSheets } from '@kindred/contract/drawing/drawing';
import { findText } from '@kindred/core/drawing/find-text';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { writeScan } from '../../packages/demo/src/drawings/scan.ts';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { refusal, testProject, testServer, type TestProject, type TestServer } from './harness.ts';
import { drawing, sheetsPdf } from './markup-table.ts';

vi.setConfig({ testTimeout: 400_000, hookTimeout: 400_000 });

let server: TestServer;
let project: TestProject;
let author: ApiPerson;
let engineer: ApiPerson;
beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
  author = (await project.join('Ann Author', 'Author', 'Architecture')).api;
  engineer = (await project.join('Eve Engineer', 'Author', 'Structure')).api;
});
afterAll(() => server.remove());

it('a scan', async () => {
  const { versionId } = await drawing(project, author, await writeScan());
  const params = { ...project.params, versionId };
  const [sheet] = await vi.waitFor(
    async () => {
      const sheets = await author.call(listSheets, { params });
      expect(sheets[0]!.recognition).toBe('recognised');
      return sheets;
    },
    { timeout: 300_000, interval: 200 },
  );
  expect(sheet).toMatchObject({ number: '', confirmed: false, proposed: { number: 'ORP-901', scale: '1:200' } });

  const words = await author.call(listRecognisedWords, { params: { ...params, page: '1' } });
  const [place] = findText(words, 'old boathouse');
  // Points: it stands a little left of the middle, in the lower half.
  expect(place!.box[0]).toBeCloseTo(198, -1);
  expect(place!.box[1]).toBeCloseTo(360, -1);
  const find = (person: ApiPerson) => person.call(findWords, { params: project.params, query: { q: 'boathouse' } });
  expect((await find(author)).items.map(({ page }) => page)).toEqual([1]);
  expect((await find(engineer)).items).toEqual([]);
  expect(await refusal(engineer.call(listRecognisedWords, { params: { ...params, page: '1' } }))).toMatchObject({
    status: 404,
  });

  const { number, title, revision, status, scale, date } = { ...sheet!, ...sheet!.proposed };
  const body = { sheets: [{ page: 1, number, title, revision, status, scale, date }] };
  const [confirmed] = await author.call(confirmSheets, { params, body });
  expect(confirmed).toMatchObject({ number: 'ORP-901', confirmed: true, proposed: null, recognition: 'recognised' });
});

it('a drawing with hardly anything on it needs none', async () => {
  const { versionId } = await drawing(project, author, await sheetsPdf(1), 'ORP-TVA-ZZ-00-D-A-0102.pdf');
  const [sheet] = await author.call(listSheets, { params: { ...project.params, versionId } });
  expect(sheet!.recognition).toBe('none');
});
