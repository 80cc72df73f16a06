/** A BCF file, of version 2.1 or 3.0, read topic by topic. What is damaged in one topic leaves the others as they are. */
import { CodedError } from '../platform/coded-error.ts';
import {
  BCF_VERSIONS,
  type BcfArchive,
  type BcfComment,
  type BcfDocumentReference,
  type BcfFile,
  type BcfHeaderFile,
  type BcfNote,
  type BcfTopic,
  type BcfVersion,
  type BcfViewpoint,
} from './bcf-file.ts';
import { attribute, child, children, isTrue, ownText, parseXml, textOf, type Xml } from './bcf-xml.ts';
import { NOTHING_SEEN, readViewpoint, type Note } from './read-viewpoint.ts';

const MARKUP = /(?:^|\/)([^/]+)\/markup\.bcf$/i;

/** The archive by names as people write them: capitals count for nothing. */
class Entries {
  private readonly byName: Map<string, string>;
  /** Of the folders of topics: some pack a folder around all of it. */
  private readonly root: string;
  constructor(private readonly archive: BcfArchive) {
    this.byName = new Map(archive.names.map((name) => [name.toLowerCase(), name]));
    const topic = archive.names.find((name) => MARKUP.test(name)) ?? '';
    this.root = topic.split('/').slice(0, -2).concat('').join('/');
  }
  read(name: string): Promise<Uint8Array> {
    return this.archive.read(name);
  }
  find(name: string): string | null {
    return this.byName.get(name.toLowerCase()) ?? null;
  }
  /** Beside the folders of topics. */
  beside(name: string): string | null {
    return this.find(this.root + name) ?? this.find(name);
  }
  /** The root element of a file beside the topics; undefined where it is not there, or cannot be read, which is noted. */
  async xmlBeside(name: string, notes: BcfNote[]): Promise<Xml | undefined> {
    const entry = this.beside(name);
    if (!entry) return undefined;
    try {
      return parseXml(await this.read(entry), entry);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      notes.push({ code: 'unreadable-part', topic: null, values: { name: entry, why: error.code } });
      return undefined;
    }
  }
  /** What a topic calls by a path from its folder, `..` too; null where there is no such file. Nothing outside is ever touched. */
  from(folder: string, reference: string): string | null {
    const parts: string[] = [];
    for (const part of `${folder}${reference.trim()}`.split(/[\\/]/)) {
      if (part === '..') parts.pop();
      else if (part && part !== '.') parts.push(part);
    }
    return parts.length ? this.find(parts.join('/')) : null;
  }
}

/** Throws `bcf-no-file` for an archive that is none; `onTopic` is told after each topic, and may throw to stop. */
export async function readBcf(
  archive: BcfArchive,
  onTopic: (done: number, of: number) => void = () => undefined,
): Promise<BcfFile> {
  const markups = archive.names.filter((name) => MARKUP.test(name));
  const notes: BcfNote[] = [];
  const entries = new Entries(archive);
  const version = await versionOf(entries, notes);
  if (!version && !markups.length) throw new CodedError('bcf-no-file');
  const documents = await sharedDocuments(entries, notes);
  const topics: BcfTopic[] = [];
  const taken = new Set<string>();
  for (const [i, name] of markups.entries()) {
    const topic = await readTopic(entries, name, documents, notes);
    if (topic && taken.has(topic.guid.toLowerCase()))
      notes.push({ code: 'same-guid', topic: topic.guid, values: { name } });
    else if (topic) {
      taken.add(topic.guid.toLowerCase());
      topics.push(topic);
    }
    onTopic(i + 1, markups.length);
  }
  const project = await projectOf(entries, notes);
  // Only 3.0 has it.
  const likely = entries.beside('extensions.xml') ? '3.0' : '2.1';
  return { version: version ?? likely, project, topics, notes };
}

async function versionOf(entries: Entries, notes: BcfNote[]): Promise<BcfVersion | undefined> {
  const root = await entries.xmlBeside('bcf.version', notes);
  if (!root) return undefined;
  const said = attribute(root, 'VersionId') ?? '';
  const known = BCF_VERSIONS.find((version) => version === said);
  if (known) return known;
  notes.push({ code: 'unknown-version', topic: null, values: { version: said } });
  return said.startsWith('3') ? '3.0' : '2.1';
}

async function projectOf(entries: Entries, notes: BcfNote[]): Promise<BcfFile['project']> {
  const project = child(await entries.xmlBeside('project.bcfp', notes), 'Project');
  return project ? { id: attribute(project, 'ProjectId'), name: textOf(project, 'Name') } : null;
}

interface SharedDocument {
  fileName: string | null;
  entry: string | null;
  description: string | null;
}
/** 3.0: documents that topics share, by GUID. */
async function sharedDocuments(entries: Entries, notes: BcfNote[]): Promise<Map<string, SharedDocument>> {
  const list = child(await entries.xmlBeside('documents.xml', notes), 'Documents');
  return new Map(
    children(list, 'Document').map((one) => {
      const guid = attribute(one, 'Guid') ?? '';
      const entry = entries.beside(`Documents/${guid}`);
      if (!entry) notes.push({ code: 'no-document', topic: null, values: { name: textOf(one, 'Filename') ?? guid } });
      return [
        guid.toLowerCase(),
        { fileName: textOf(one, 'Filename'), entry, description: textOf(one, 'Description') },
      ] as const;
    }),
  );
}

async function readTopic(
  entries: Entries,
  name: string,
  documents: ReadonlyMap<string, SharedDocument>,
  notes: BcfNote[],
): Promise<BcfTopic | null> {
  const folder = name.slice(0, name.lastIndexOf('/') + 1);
  const folderName = MARKUP.exec(name)![1]!;
  let root: Xml;
  try {
    root = parseXml(await entries.read(name), name);
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    notes.push({ code: 'unreadable-topic', topic: folderName, values: { name, why: error.code } });
    return null;
  }
  const topic = child(root, 'Topic');
  const guid = attribute(topic, 'Guid') ?? folderName;
  const note: Note = (code, values = {}) => void notes.push({ code, topic: guid, values });
  const title = textOf(topic, 'Title');
  if (title === null) note('no-title');
  const entryOf = (reference: string): string | null => entries.from(folder, reference);
  return {
    guid,
    assignedId: attribute(topic, 'ServerAssignedId'),
    title: title ?? '',
    description: textOf(topic, 'Description'),
    type: attribute(topic, 'TopicType'),
    status: attribute(topic, 'TopicStatus'),
    priority: textOf(topic, 'Priority'),
    stage: textOf(topic, 'Stage'),
    index: integer(textOf(topic, 'Index')),
    author: textOf(topic, 'CreationAuthor'),
    created: textOf(topic, 'CreationDate'),
    modifiedAuthor: textOf(topic, 'ModifiedAuthor'),
    modified: textOf(topic, 'ModifiedDate'),
    assignedTo: textOf(topic, 'AssignedTo'),
    due: textOf(topic, 'DueDate'),
    labels: listed(topic, 'Labels', 'Label'),
    referenceLinks: [...texts(topic, 'ReferenceLink'), ...texts(child(topic, 'ReferenceLinks'), 'ReferenceLink')],
    header: headerOf(root),
    snippet: snippetOf(child(topic, 'BimSnippet'), entryOf),
    documents: documentsOf(topic, documents, entryOf, note),
    related: [...children(topic, 'RelatedTopic'), ...children(child(topic, 'RelatedTopics'), 'RelatedTopic')].flatMap(
      (one) => attribute(one, 'Guid') ?? [],
    ),
    comments: [...children(root, 'Comment'), ...children(child(topic, 'Comments'), 'Comment')].map(commentOf),
    viewpoints: await viewpointsOf(entries, root, topic, folder, note),
  };
}

/** Texts of several elements of one name. */
const texts = (element: Xml | undefined, name: string): string[] =>
  children(element, name)
    .map(ownText)
    .filter((text) => text.trim() !== '');
/** 2.1 has `<Labels>a</Labels><Labels>b</Labels>`, 3.0 `<Labels><Label>a</Label>…</Labels>`. */
const listed = (element: Xml | undefined, name: string, within: string): string[] => [
  ...texts(element, name),
  ...children(element, name).flatMap((list) => texts(list, within)),
];
function integer(said: string | null): number | null {
  const value = Number(said ?? NaN);
  return Number.isInteger(value) ? value : null;
}

const headerOf = (root: Xml): BcfHeaderFile[] => {
  const header = child(root, 'Header');
  return [...children(header, 'File'), ...children(child(header, 'Files'), 'File')].map((file) => ({
    project: attribute(file, 'IfcProject'),
    spatialElement: attribute(file, 'IfcSpatialStructureElement'),
    // Nothing said means outside.
    isExternal: isTrue(attribute(file, 'isExternal', 'IsExternal') ?? 'true'),
    fileName: textOf(file, 'Filename'),
    date: textOf(file, 'Date'),
    reference: textOf(file, 'Reference'),
  }));
};

function snippetOf(snippet: Xml | undefined, entryOf: (reference: string) => string | null): BcfTopic['snippet'] {
  if (!snippet) return null;
  const reference = textOf(snippet, 'Reference') ?? '';
  const isExternal = isTrue(attribute(snippet, 'isExternal', 'IsExternal'));
  return {
    type: attribute(snippet, 'SnippetType') ?? '',
    ...{ isExternal, reference, schema: textOf(snippet, 'ReferenceSchema') },
    entry: isExternal ? null : entryOf(reference),
  };
}

function documentsOf(
  topic: Xml | undefined,
  shared: ReadonlyMap<string, SharedDocument>,
  entryOf: (reference: string) => string | null,
  note: Note,
): BcfDocumentReference[] {
  const all = [
    ...children(topic, 'DocumentReference'),
    ...children(child(topic, 'DocumentReferences'), 'DocumentReference'),
  ];
  return all.map((one): BcfDocumentReference => {
    const [guid, description] = [attribute(one, 'Guid'), textOf(one, 'Description')];
    const nothing = { url: null, entry: null, fileName: null, documentGuid: null };
    const documentGuid = textOf(one, 'DocumentGuid')?.trim();
    if (documentGuid) {
      const known = shared.get(documentGuid.toLowerCase());
      if (!known) note('no-document', { name: documentGuid });
      const { entry = null, fileName = null } = known ?? {};
      return {
        ...nothing,
        guid,
        description: description ?? known?.description ?? null,
        entry,
        fileName,
        documentGuid,
      };
    }
    const reference = (textOf(one, 'Url') ?? textOf(one, 'ReferencedDocument') ?? '').trim();
    if (textOf(one, 'Url') !== null || isTrue(attribute(one, 'isExternal')))
      return { ...nothing, guid, description, url: reference };
    const entry = entryOf(reference);
    if (!entry) note('no-document', { name: reference });
    return { ...nothing, guid, description, entry, fileName: reference.split(/[\\/]/).at(-1) || null };
  });
}

const commentOf = (comment: Xml): BcfComment => ({
  guid: attribute(comment, 'Guid') ?? '',
  author: textOf(comment, 'Author'),
  date: textOf(comment, 'Date'),
  text: textOf(comment, 'Comment') ?? '',
  viewpoint: attribute(child(comment, 'Viewpoint'), 'Guid'),
  modifiedAuthor: textOf(comment, 'ModifiedAuthor'),
  modified: textOf(comment, 'ModifiedDate'),
});

async function viewpointsOf(
  entries: Entries,
  root: Xml,
  topic: Xml | undefined,
  folder: string,
  note: Note,
): Promise<BcfViewpoint[]> {
  const found: BcfViewpoint[] = [];
  for (const one of [...children(root, 'Viewpoints'), ...children(child(topic, 'Viewpoints'), 'ViewPoint')]) {
    const [file, picture] = [textOf(one, 'Viewpoint'), textOf(one, 'Snapshot')];
    const snapshot = picture === null ? null : entries.from(folder, picture);
    if (picture !== null && !snapshot) note('no-snapshot', { name: picture });
    const guid = attribute(one, 'Guid') ?? '';
    const index = integer(textOf(one, 'Index'));
    found.push({ guid, index, snapshot, ...(await seenIn(entries, folder, file, note)) });
  }
  return found;
}

async function seenIn(entries: Entries, folder: string, file: string | null, note: Note): Promise<typeof NOTHING_SEEN> {
  if (file === null) return NOTHING_SEEN;
  const entry = entries.from(folder, file);
  if (!entry) {
    note('no-viewpoint-file', { name: file });
    return NOTHING_SEEN;
  }
  try {
    const root = parseXml(await entries.read(entry), entry);
    return readViewpoint(root, (reference) => entries.from(folder, reference), note);
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    note('unreadable-viewpoint', { name: file, why: error.code });
    return NOTHING_SEEN;
  }
}
