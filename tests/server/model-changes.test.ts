/** What changed in a model: compared by itself when a new version is ready, element by element, over all versions. */
import ExcelJS from '@protobi/exceljs';
import {
  addRequests,
  askComparison,
  judgeChange,
  listComparisons,
  listElementHistory,
  listModelChanges,
  showBrief,
  showComparison,
  startComparisonExport,
  type Comparison,
} from '@kindred/contract/compare/compare';
import { showContainer } from '@kindred/contract/register/register';
import { listHistory } from '@kindred/contract/things/things';
import { beforeAll, expect, it, vi } from 'vitest';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import { structure } from '../../packages/demo/src/building/structure.ts';
import type { Part } from '../../packages/demo/src/building/parts.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { deliverFile, prepared, refusal, share } from './harness.ts';
import { drawing, made } from './markup-table.ts';
import { architect, colleague, engineer, project, server, text, threePeople } from './three-people.ts';

vi.setConfig({ testTimeout: 400_000, hookTimeout: 400_000 });
threePeople();

const CODE = 'ORP-TVA-ZZ-ZZ-M-A-0042.ifc';
const parts = structure({ number: 1 }).slice(0, 40);
const [shifted, gone, said] = parts as [Part, Part, Part];
const edit = (change: (part: Part) => Part | null) => parts.flatMap((part) => change(part) ?? []);
/** The first issue; one with three changes; the same with every GlobalId new and one thing more; the whole moved. */
const second = edit((part) =>
  part === shifted
    ? { ...part, at: [part.at[0] + 0.25, part.at[1], part.at[2]] }
    : part === gone
      ? null
      : part === said
        ? { ...part, properties: { ...part.properties, Pset_Fire: { FireRating: 'EI 90' } } }
        : part,
);
const third = second.map((part) => ({
  ...part,
  key: `anew/${part.key}`,
  ...(part.name === shifted.name && part.key === shifted.key && { properties: { Pset_Fire: { FireRating: 'EI 30' } } }),
}));
const fourth = third.map((part) => ({ ...part, at: [part.at[0] + 2, part.at[1], part.at[2]] as Part['at'] }));
const ifc = (of: readonly Part[]) => text(writeModel(of, { title: 'Frame', organisation: 'Nobody', schema: 'IFC4' }));

let containerId: string;
let all: Comparison[];
const comparisons = async (person: ApiPerson) =>
  (await person.call(listComparisons, { params: project.params, query: { containerId } })).items;
beforeAll(async () => {
  for (const of of [parts, second, third, fourth]) {
    ({ containerId } = await deliverFile(project, architect.api, 'Architecture / Models', CODE, ifc(of)));
    await prepared(project, architect.api, containerId);
  }
  all = await vi.waitFor(
    async () => {
      const found = await comparisons(architect.api);
      expect(found.map(({ status }) => status)).toEqual(['ready', 'ready', 'ready']);
      return found.toReversed();
    },
    { timeout: 300_000, interval: 200 },
  );
});
const at = (comparison: Comparison) => ({ ...project.params, comparisonId: comparison.id });
const changesOf = async (comparison: Comparison) =>
  (await architect.api.call(listModelChanges, { params: at(comparison) })).items;

it('compares by itself and says of each element what became of it', async () => {
  expect(all[0]).toMatchObject({
    kind: 'model',
    counts: { added: 0, removed: 1, moved: 1, text: 1, look: 0 },
    sheets: 1,
    done: 1,
  });
  const changes = await changesOf(all[0]!);
  expect(changes.map(({ number, kind, name }) => [number, kind, name])).toEqual([
    [1, 'removed', gone.name],
    [2, 'moved', shifted.name],
    [3, 'text', said.name],
  ]);
  expect(changes[1]!.moved).toEqual([expect.closeTo(0.25), expect.closeTo(0), expect.closeTo(0)]);
  expect(changes[2]!.properties).toMatchObject([{ set: 'Pset_Fire', name: 'FireRating', after: { value: 'EI 90' } }]);
  const page = await architect.api.call(listModelChanges, { params: at(all[0]!), query: { limit: 2 } });
  const rest = await architect.api.call(listModelChanges, {
    params: at(all[0]!),
    query: { limit: 2, after: page.next! },
  });
  expect([...page.items, ...rest.items]).toEqual(changes);
  expect(rest.next).toBeNull();
  const { versions } = await architect.api.call(showContainer, { params: { ...project.params, containerId } });
  const { id } = versions.find(({ number }) => number === 2)!;
  const history = await architect.api.call(listHistory, { params: project.params, query: { type: 'version', id } });
  expect(JSON.stringify(history)).toContain('models compared');
});

it('tells a model that moved as a whole once', async () => {
  expect(all[2]!.counts).toEqual({ added: 0, removed: 0, moved: 0, text: 0, look: 0 });
  const { sheets } = await architect.api.call(showComparison, { params: at(all[2]!) });
  expect(sheets[0]!.note).toContain('The whole model moved by 2 m (2, 0, 0)');
});

it('follows an element over all versions, under whatever GlobalId', async () => {
  const { versions } = await architect.api.call(showContainer, { params: { ...project.params, containerId } });
  const newest = versions[0]!;
  const [renamed] = (await changesOf(all[1]!)).filter(({ name }) => name === shifted.name);
  expect(renamed).toMatchObject({ kind: 'text', formerId: expect.any(String) as string });
  const told = (versionId: string, globalId: string) =>
    architect.api.call(listElementHistory, { params: { ...project.params, versionId }, query: { globalId } });
  const history = await told(newest.id, renamed!.globalId);
  expect(history.map(({ number, change }) => [number, change?.kind ?? null])).toEqual([
    [4, null],
    [3, 'text'],
    [2, 'moved'],
    [1, null],
  ]);
  expect(history[2]).toMatchObject({ deliveredBy: { name: 'Ada Architect' }, before: 1, compared: true });
  // From where it was called otherwise the same is told.
  expect(await told(versions.at(-1)!.id, renamed!.formerId!)).toEqual(history);
  const [lost] = await changesOf(all[0]!);
  const ends = await told(versions.at(-1)!.id, lost!.globalId);
  expect(ends.map(({ number, change }) => [number, change?.kind ?? null])).toEqual([
    [2, 'removed'],
    [1, null],
  ]);
});

it('holds what was asked for against it', async () => {
  const versionId = all[0]!.before.id;
  await architect.api.call(addRequests, {
    params: { ...project.params, versionId },
    body: { requests: [{ text: `Move ${shifted.name} to the east` }, { text: 'Make the ramp wider' }] },
  });
  const brief = await architect.api.call(showBrief, { params: at(all[0]!) });
  expect(brief.counts).toMatchObject({ missing: 1, toTick: 3 });
  expect(brief.requests[0]!.changes).toContainEqual({ position: 1, number: 2 });
  const ticked = await colleague.api.call(judgeChange, {
    params: at(all[0]!),
    body: { position: 1, number: 3, asked: true, requestIds: [brief.requests[1]!.id] },
  });
  expect(ticked.counts).toMatchObject({ found: 2, missing: 0 });
  expect((await comparisons(architect.api)).at(-1)!.brief).toEqual(ticked.counts);
});

it('goes into a workbook with every value', async () => {
  const refused = architect.api.call(startComparisonExport, { params: at(all[0]!), body: { as: 'pdf' } });
  expect(await refusal(refused)).toMatchObject({ code: 'not-as-pdf' });
  const { id } = await architect.api.call(startComparisonExport, { params: at(all[0]!), body: { as: 'xlsx' } });
  const book = new ExcelJS.Workbook();
  await book.xlsx.load((await made(architect.api, server.address, project.params.projectId, id)) as never);
  const cells = (name: string) =>
    book
      .getWorksheet(name)!
      .getSheetValues()
      .slice(2)
      .map((row) => (row as unknown[]).slice(1));
  expect(cells('Elements').map(([, kind, , name, , how]) => [kind, name, how])).toEqual([
    ['removed', gone.name, undefined],
    ['moved', shifted.name, 'moved by 0.25 m (0.25, 0, 0)'],
    ['values', said.name, undefined],
  ]);
  expect(cells('Values')).toEqual([[3, said.name, 'Pset_Fire', 'FireRating', undefined, 'EI 90']]);
});

it('is there for those who get both versions, and compares models with models only', async () => {
  expect(await comparisons(engineer.api)).toEqual([]);
  expect(await refusal(engineer.api.call(listModelChanges, { params: at(all[0]!) }))).toMatchObject({ status: 404 });
  const versionId = all[0]!.after.id;
  const unseen = engineer.api.call(listElementHistory, {
    params: { ...project.params, versionId },
    query: { globalId: 'any' },
  });
  expect(await refusal(unseen)).toMatchObject({ status: 404 });
  await share(project, architect.api, containerId);
  expect(await comparisons(engineer.api)).toEqual([]);
  const sheet = await drawing(project, architect.api);
  const body = { beforeId: versionId, afterId: sheet.versionId };
  const mixed = architect.api.call(askComparison, { params: project.params, body });
  expect(await refusal(mixed)).toMatchObject({ code: 'not-comparable' });
});
