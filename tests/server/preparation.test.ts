import { showElementProperties } from '@kindred/contract/scene/scene';
import { listSheets } from '@kindred/contract/drawing/drawing';
import { decodeScene } from '@kindred/core/scene/package';
import { joinScenes } from '@kindred/core/scene/parts';
import http from 'node:http';
import { arrayBuffer } from 'node:stream/consumers';
import { PDFDocument } from '@cantoo/pdf-lib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Part } from '../../packages/demo/src/building/parts.ts';
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

/** As who reads nothing that is compressed: fetch always does. */
const unpacked = (versionId: string, name: string) =>
  new Promise<{ encoding: string | undefined; content: ArrayBuffer }>((resolve, reject) => {
    const address = `${server.address}/api/projects/${project.projectId}/versions/${versionId}/products/${name}`;
    http
      .get(
        address,
        { headers: { ...project.founder.headersForFiles(), 'accept-encoding': 'identity' } },
        async (answer) => {
          const content = await arrayBuffer(answer);
          resolve({ encoding: answer.headers['content-encoding'], content });
        },
      )
      .on('error', reject);
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

  it('makes several parts of a large model, and sends them as they lie: compressed, or not to whoever cannot read that', async () => {
    const one = structure({ number: 1 });
    const many = Array.from({ length: 22 }, (_, copy) =>
      one.map((part): Part => ({
        ...part,
        key: `${copy}/${part.key}`,
        at: [part.at[0], part.at[1] + copy * 60, part.at[2]],
      })),
    ).flat();
    const { versionId, preparation } = await prepare(
      '.ifc',
      bytes(writeModel(many, { title: 'Test', organisation: 'Nobody', schema: 'IFC4' })),
    );
    expect(preparation).toBe('ready');
    const packed = await product(versionId, 'scene');
    expect(packed.headers.get('content-encoding')).toBe('gzip');
    const first = decodeScene(await packed.arrayBuffer());
    const further = await Promise.all(
      first.parts!.places.map(async (_, i) =>
        decodeScene(await (await product(versionId, `scene?part=${i + 1}`)).arrayBuffer()),
      ),
    );
    const whole = joinScenes([first, ...further]);
    expect(new Set(whole.instances.element).size).toBe(many.length);
    expect(first.instances.element.length).toBeLessThan(many.length / 4);
    expect((await product(versionId, `scene?part=${further.length + 1}`)).status).toBe(404);
    expect((await product(versionId, 'scene?part=x')).status).toBe(400);
    const plain = await unpacked(versionId, 'scene');
    expect(plain.encoding).toBeUndefined();
    expect(decodeScene(plain.content).bounds).toEqual(first.bounds);
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
