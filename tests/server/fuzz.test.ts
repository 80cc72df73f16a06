/** Damaged and hostile files: each becomes ready or failed with a sentence that helps, and none harms the next. */
import { listSheets } from '@kindred/contract/drawing/drawing';
import { deliver } from '@kindred/contract/register/register';
import { afterEach, expect, it } from 'vitest';
import { awkwardPdf, damagedFile, wholeModel } from './damaged-files.ts';
import { deliverFile, inFull, testProject, testServer, until, type TestProject, type TestServer } from './harness.ts';

const FILES = Number(process.env.KS_FUZZ ?? (inFull ? 200 : 20));
const FIRST = Number(process.env.KS_FUZZ_SEED ?? 1);
/** What a programmer would say, not whoever knows the trade. */
const INTERNAL =
  /memory access|out of bounds|undefined|is not a function|is not iterable|cannot read prop|wasm|stack size|heap|NaN|Unfit|Error:|schema IFC4 /i;

let server: TestServer;
let project: TestProject;
async function open(seconds: number): Promise<void> {
  server = await testServer({ role: 'all', preparation: { seconds, megabytes: 1500, processes: 2 } });
  project = await testProject(server);
}
afterEach(() => server.remove());

interface Row {
  id: string;
  preparation: string;
  note: string;
}
const outcomes = async (ids: string[]): Promise<Map<string, Row>> => {
  const { rows } = await server.platform.pool.query<Row>(
    'select id, preparation, preparation_note as note from versions where id = any($1)',
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
};
const ended = async (ids: string[], what: string): Promise<Map<string, Row>> => {
  await until(
    async () => [...(await outcomes(ids)).values()].every(({ preparation }) => /^(?:ready|failed)$/.test(preparation)),
    what,
    FILES * 8000 + 120_000,
  );
  return outcomes(ids);
};

it(
  `${FILES} damaged files end ready or failed, each with a sentence, and a good model among them is ready`,
  { timeout: FILES * 10_000 + 180_000 },
  async () => {
    await open(15);
    const said = new Map<string, string>();
    const good: string[] = [];
    const folderId = project.folders.get('Architecture / Models')!;
    for (let seed = FIRST; seed < FIRST + FILES; seed++) {
      const file = await damagedFile(seed);
      const code = `ORP-TVA-ZZ-ZZ-M-A-${10_000 + seed}`;
      const uploadId = await project.founder.upload(project.projectId, `${code}${file.extension}`, file.bytes);
      const body = { folderId, files: [{ uploadId, code }] };
      const { files } = await project.founder.call(deliver, { params: project.params, body });
      said.set(files[0]!.versionId, `${seed} ${file.extension} ${file.how}`);
      if (seed % 10) continue;
      const name = `ORP-TVA-ZZ-ZZ-M-A-${90_000 + seed}.ifc`;
      good.push((await deliverFile(project, project.founder, 'Architecture / Models', name, wholeModel)).versionId);
    }
    const after = await ended([...said.keys(), ...good], 'all are prepared');
    for (const [id, what] of said) {
      const { preparation, note } = after.get(id)!;
      expect.soft(note, what).not.toMatch(INTERNAL);
      if (preparation === 'failed') expect.soft(note, what).toMatch(/^(?:This|Preparing|The picture) .*\.$/s);
    }
    expect(good.map((id) => after.get(id)!.preparation)).toEqual(good.map(() => 'ready'));
  },
);

it('a drawing of 6,000 pages with labels that hold NUL has 6,000 sheets', { timeout: 300_000 }, async () => {
  await open(240);
  const pages = 6000;
  const name = 'ORP-TVA-ZZ-00-D-A-0900.pdf';
  const { versionId } = await deliverFile(
    project,
    project.founder,
    'Architecture / Drawings',
    name,
    await awkwardPdf(pages),
  );
  const row = (await ended([versionId], 'it is prepared')).get(versionId)!;
  expect([row.preparation, row.note]).toEqual(['ready', '']);
  const { rows } = await server.platform.pool.query<{ n: number; label: string }>(
    'select count(*)::int as n, max(label) as label from sheets where version_id = $1',
    [versionId],
  );
  expect(rows[0]).toEqual({ n: pages, label: 'AB' });
  const sheets = await project.founder.call(listSheets, { params: { ...project.params, versionId } });
  expect(sheets.length).toBe(pages);
});
