/** BCF files: what they say, and the same in another version. */
import { openZip, type OpenZip } from '@kindred/archive/read-zip';
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import {
  BCF_VERSIONS,
  type BcfCamera,
  type BcfComponent,
  type BcfFile,
  type BcfNote,
  type BcfTopic,
  type BcfVersion,
  type BcfViewpoint,
} from '@kindred/core/bcf/bcf-file';
import { readBcf } from '@kindred/core/bcf/read-bcf';
import { writeBcf } from '@kindred/core/bcf/write-bcf';
import { bcfNote } from '@kindred/words/bcf';
import { counted } from '@kindred/words/sentence';
import { UsageError } from './problem.ts';
import { progressBar } from './progress.ts';
import { writeWhole } from './write-whole.ts';

/** With `to` and `out` it is written in that version too. */
export async function readBcfFile(path: string, to: string | undefined, out: string | undefined) {
  const version = to === undefined ? undefined : BCF_VERSIONS.find((one) => one === to);
  if (to !== undefined && !version)
    throw new UsageError(`--to ${to} is no version`, `Versions that can be written: ${BCF_VERSIONS.join(', ')}.`);
  if ((version === undefined) !== (out === undefined))
    throw new UsageError('--to and --out belong together', 'Usage: ks bcf B.bcf --to 3.0 --out C.bcf');
  const zip = await openZip(path);
  try {
    const bar = progressBar();
    const file = await readBcf(zip, (done, of) => bar.show('reading topics', done / of));
    bar.end();
    const unsafe = zip.unsafe.map((name): BcfNote => ({ code: 'unsafe-name', topic: null, values: { name } }));
    const notes = [...unsafe, ...file.notes, ...(version ? await convert(zip, file, version, out!) : [])];
    const data = {
      version: file.version,
      topics: file.topics.map(toTopic),
      notes: notes.map((note) => `${note.code}: ${bcfNote(note)}`),
    };
    return { data, text: text(file, notes, version ? out : undefined) };
  } finally {
    zip.close();
  }
}

async function convert(zip: OpenZip, file: BcfFile, version: BcfVersion, out: string): Promise<BcfNote[]> {
  const notes: BcfNote[] = [];
  async function* entries() {
    const written = writeBcf(
      file,
      version,
      (entry) => zip.read(entry),
      (note) => notes.push(note),
    );
    for await (const { name, bytes } of written) yield { name, content: bytes };
  }
  await writeWhole(out, zipAsTheyCome(entries()));
  return notes;
}

const toTopic = (topic: BcfTopic) => ({
  ...{ guid: topic.guid, title: topic.title, description: topic.description, type: topic.type, status: topic.status },
  ...{ priority: topic.priority, author: topic.author, created: topic.created, assignedTo: topic.assignedTo },
  ...{ due: topic.due, labels: topic.labels },
  comments: topic.comments.map(({ guid, author, date, text: said, viewpoint }) => ({
    ...{ guid, author, date, text: said, viewpoint },
  })),
  viewpoints: topic.viewpoints.map(toViewpoint),
  documents: topic.documents.map(({ url, fileName, description }) => ({
    ...{ name: fileName ?? url ?? '', external: url !== null, description },
  })),
  related: topic.related,
});

const toCamera = ({ kind, position, direction, up, fieldOfView, scale }: BcfCamera) => ({
  ...{ kind, position, direction, up },
  ...(fieldOfView !== undefined && { fieldOfView }),
  ...(scale !== undefined && { scale }),
});
const idOf = ({ ifcGuid, authoringToolId }: BcfComponent): string => ifcGuid ?? authoringToolId ?? '';
const toViewpoint = ({ guid, camera, selection, visibility, colours, sections, lines, snapshot }: BcfViewpoint) => ({
  guid,
  camera: camera && toCamera(camera),
  selection: selection.map(idOf),
  visibility: { default: visibility?.default ?? true, exceptions: visibility?.exceptions.map(idOf) ?? [] },
  colours: colours.map(({ colour, components }) => ({ colour, components: components.map(idOf) })),
  ...{ sections, lines, picture: snapshot !== null },
});

function text({ version, topics }: BcfFile, notes: readonly BcfNote[], out: string | undefined): string {
  return [
    `BCF ${version}: ${counted(topics.length, 'topic')}`,
    ...topics.map(({ title, type, status, comments, viewpoints }) => {
      const said = [type, status].filter(Boolean).join(', ');
      const parts = [counted(comments.length, 'comment'), counted(viewpoints.length, 'viewpoint')].join(', ');
      return `  ${title || '(no title)'}${said ? ` (${said})` : ''}: ${parts}`;
    }),
    ...notes.map(bcfNote),
    ...(out ? [`Written to ${out}.`] : []),
  ].join('\n');
}
