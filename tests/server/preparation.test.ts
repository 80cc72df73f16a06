import { showElementProperties } from '@kindred/contract/scene/scene';
import { listSheets } from '@kindred/contract/drawing/drawing';
import { decodeScene } from '@kindred/core/scene/package';
import { PDFDocument } from '@cantoo/pdf-lib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { structure } from '../../packages/demo/src/building/structure.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';
import { deliverFile, prepared, testProject, testServer, type TestProject, type TestServer } from './harness.ts';

let server: TestServer;
let project: TestProject;
let number = 100;

beforeAll(async () => {
  server = await testServer({ role: 'all' });
  project = await testProject(server);
});
afterAll(() => server.remove());

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const model = writeModel(structure({ number: 1 }), { title: 'Test', organisation: 'Nobody', schema: 'IFC4' });

async function prepare(extension: string, content: Uint8Array) {
  const delivered = await deliverFile(
    project,
    project.founder,
    'Architecture / Models',
    `ORP-TVA-ZZ-ZZ-M-A-0${number++}${extension}`,
    content,
  );
  return { ...delivered, ...(await prepared(project, project.founder, delivered.containerId)) };
}
const product = (versionId: string, name: string) =>
  fetch(`${server.address}/api/projects/${project.projectId}/versions/${versionId}/products/${name}`, {
    headers: project.founder.headersForFiles(),
  });

describe('preparation', () => {
  it('makes a scene, an element table, properties and a thumbnail of a model', async () => {
    const { versionId, preparation, preparationNote } = await prepare('.ifc', bytes(model));
    expect([preparation, preparationNote]).toEqual(['ready', '']);
    const scene = decodeScene(await (await product(versionId, 'scene')).arrayBuffer());
    const table = (await (await product(versionId, 'elements')).json()) as { globalId: string[]; name: string[] };
    expect(table.globalId).toHaveLength(structure({ number: 1 }).length);
    expect(Math.max(...scene.instances.element)).toBe(table.globalId.length - 1);
    const row = table.name.indexOf('Portal column 1S');
    const sets = await project.founder.call(showElementProperties, {
      params: { ...project.params, versionId, row: row as never },
    });
    expect(sets.map(({ name }) => name)).toContain('Pset_ColumnCommon');
    expect((await product(versionId, 'thumbnail')).headers.get('content-type')).toBe('image/png');
  });

  it('finds the sheets of a PDF, turned pages included', async () => {
    const pdf = await PDFDocument.create();
    pdf.addPage([2384, 1684]);
    const { degrees } = await import('@cantoo/pdf-lib');
    pdf.addPage([595, 842]).setRotation(degrees(90));
    const { versionId, preparation } = await prepare('.pdf', await pdf.save());
    expect(preparation).toBe('ready');
    const sheets = await project.founder.call(listSheets, { params: { ...project.params, versionId } });
    expect(sheets.map(({ label, width, height }) => [label, width, height])).toEqual([
      ['Sheet 1', 2384, 1684],
      ['Sheet 2', 842, 595],
    ]);
  });

  it.each([
    ['text named .pdf', '.pdf', bytes('just some text'), 'named as a PDF'],
    ['a damaged PDF', '.pdf', bytes('%PDF-1.7\n1 0 obj << /Type /Catalog >> garbage'), ''],
    ['an IFC cut off before its first element', '.ifc', bytes(model.slice(0, 1500)), 'ends in the middle'],
    ['an IFC that is none', '.ifc', bytes('hello world'), 'named as a model'],
    ['a picture that is none', '.png', bytes('\x89PNG\r\n broken'), ''],
  ])('of %s fails with a sentence, and the server goes on', async (_name, extension, content, sentence) => {
    const { preparation, preparationNote } = await prepare(extension, content);
    expect(preparation).toBe('failed');
    expect(preparationNote).toContain(sentence);
    expect(preparationNote.length).toBeGreaterThan(20);
    expect((await fetch(`${server.address}/api/health`)).status).toBe(200);
  });

  it('of a PDF with a password says so', async () => {
    const { preparation, preparationNote } = await prepare('.pdf', bytes(ENCRYPTED));
    expect(preparation).toBe('failed');
    expect(preparationNote).toContain('asks for a password');
  });

  it('of a truncated IFC shows what it holds, and says that the rest is missing', async () => {
    const { versionId, preparation, preparationNote } = await prepare('.ifc', bytes(model.slice(0, model.length / 2)));
    expect(preparation).toBe('ready');
    expect(preparationNote).toMatch(/ends in the middle: \d+ elements .* is missing/);
    const table = (await (await product(versionId, 'elements')).json()) as { globalId: string[] };
    expect(table.globalId.length).toBeGreaterThan(10);
  });

  it('of an IFC without geometry is ready, with a note', async () => {
    const empty = writeModel([], { title: 'Empty', organisation: 'Nobody', schema: 'IFC4' });
    const { preparation, preparationNote } = await prepare('.ifc', bytes(empty));
    expect(preparation).toBe('ready');
    expect(preparationNote).toContain('No element');
  });
});

/** A minimal file that declares encryption with a user password that nobody gave. */
const ENCRYPTED = `%PDF-1.4
1 0 obj
<< /Type /Catalog /Pages 2 0 R >>
endobj
2 0 obj
<< /Type /Pages /Kids [3 0 R] /Count 1 >>
endobj
3 0 obj
<< /Type /Page /Parent 2 0 R /MediaBox [0 0 100 100] >>
endobj
4 0 obj
<< /Filter /Standard /V 1 /R 2 /Length 40 /P -44 /O <${'41'.repeat(32)}> /U <${'42'.repeat(32)}> >>
endobj
trailer
<< /Root 1 0 R /Size 5 /Encrypt 4 0 R /ID [<00><00>] >>
%%EOF
`;
