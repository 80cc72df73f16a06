import { openZip } from '@kindred/archive/read-zip';
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { commands } from './commands.ts';

let folder: string;
beforeAll(async () => {
  folder = await fs.mkdtemp(path.join(os.tmpdir(), 'bcf-'));
});
afterAll(() => fs.rm(folder, { recursive: true }));

const GUID = '7f0d3f4c-6f0e-4a63-9d5a-0b8c2f7d1e01';
const VIEW = '2b1c4a90-1d5e-4f8b-8a44-5f2f0c9e7a02';
const point = (name: string, [x, y, z]: number[]) => `<${name}><X>${x}</X><Y>${y}</Y><Z>${z}</Z></${name}>`;
const FILES: Record<string, string> = {
  'bcf.version': '<Version VersionId="2.1"/>',
  [`${GUID}/markup.bcf`]: `<Markup><Topic Guid="${GUID}" TopicStatus="Open"><Title>0012</Title><CreationDate>2026-02-01T08:00:00Z</CreationDate><CreationAuthor>ada@example.org</CreationAuthor></Topic>
    <Viewpoints Guid="${VIEW}"><Viewpoint>v.bcfv</Viewpoint><Snapshot>s.png</Snapshot></Viewpoints></Markup>`,
  [`${GUID}/v.bcfv`]: `<VisualizationInfo Guid="${VIEW}"><Components><Selection><Component IfcGuid="1YvctVUKr0kugbFTf53O9L"/></Selection><Visibility DefaultVisibility="true"/></Components><OrthogonalCamera>${point('CameraViewPoint', [1, 2, 3])}${point('CameraDirection', [0, 0, -1])}${point('CameraUpVector', [0, 1, 0])}<ViewToWorldScale>12</ViewToWorldScale></OrthogonalCamera></VisualizationInfo>`,
  [`${GUID}/s.png`]: 'picture',
};
async function bcf(files = FILES): Promise<string> {
  const file = path.join(folder, `${Object.keys(files).length}.bcf`);

  const entries = (async function* () {
    for (const [name, said] of Object.entries(files)) yield { name, content: Buffer.from(said) };
  })();
  await fs.writeFile(file, await buffer(zipAsTheyCome(entries)));
  return file;
}
const run = (...args: string[]) => commands.bcf!.run(args);

it('tells what a BCF file says', async () => {
  const { data, text } = await run(await bcf());
  expect(data).toEqual({
    version: '2.1',
    notes: [],
    topics: [
      {
        ...{ guid: GUID, title: '0012', description: null, type: null, status: 'Open', priority: null },
        ...{ author: 'ada@example.org', created: '2026-02-01T08:00:00Z', assignedTo: null, due: null, labels: [] },
        ...{ comments: [], documents: [], related: [] },
        viewpoints: [
          {
            guid: VIEW,
            camera: { kind: 'orthogonal', position: [1, 2, 3], direction: [0, 0, -1], up: [0, 1, 0], scale: 12 },
            selection: ['1YvctVUKr0kugbFTf53O9L'],
            visibility: { default: true, exceptions: [] },
            ...{ colours: [], sections: [], lines: [], picture: true },
          },
        ],
      },
    ],
  });
  expect(text).toBe('BCF 2.1: 1 topic\n  0012 (Open): 0 comments, 1 viewpoint');
});

it('writes it in the other version, whole, and says what that wanted', async () => {
  const out = path.join(folder, 'out.bcf');
  const { data } = await run(await bcf(), '--to', '3.0', '--out', out);
  expect(data).toMatchObject({
    notes: [`filled: Topic ${GUID}: TopicType is required and was not said; a placeholder stands there.`],
  });
  const zip = await openZip(out);
  expect([...zip.names].sort()).toEqual(
    ['bcf.version', 'extensions.xml', `${GUID}/markup.bcf`, `${GUID}/${VIEW}.bcfv`, `${GUID}/${VIEW}.png`].sort(),
  );
  expect(Buffer.from(await zip.read(`${GUID}/${VIEW}.png`)).toString()).toBe('picture');
  zip.close();
  const again = (await run(out)).data as { version: string; topics: { title: string; viewpoints: object[] }[] };
  expect(again).toMatchObject({ version: '3.0', topics: [{ title: '0012', viewpoints: [{ camera: { scale: 12 } }] }] });
});

it('leaves nothing half written, and says what is wrong', async () => {
  const out = path.join(folder, 'broken.bcf');
  await expect(run(await bcf(), '--to', '4.0', '--out', out)).rejects.toThrow('--to 4.0 is no version');
  await expect(run(await bcf(), '--to', '3.0')).rejects.toThrow('--to and --out belong together');
  const zip = await fs.readFile(await bcf());
  // The picture is not what was packed: its checksum in the directory is another one.
  const at = zip.lastIndexOf(Buffer.from('PK\u0001\u0002', 'latin1'));
  zip[at + 16]! ^= 1;
  const damaged = path.join(folder, 'damaged.bcf');
  await fs.writeFile(damaged, zip);
  await expect(run(damaged, '--to', '3.0', '--out', out)).rejects.toMatchObject({ code: 'zip-damaged' });
  expect((await fs.readdir(folder)).filter((name) => name.includes('broken'))).toEqual([]);
  await fs.writeFile(damaged, 'x'.repeat(100));
  await expect(run(damaged)).rejects.toMatchObject({ code: 'no-zip' });
  await expect(run(await bcf({ 'a.txt': 'nothing' }))).rejects.toMatchObject({ code: 'bcf-no-file' });
});
