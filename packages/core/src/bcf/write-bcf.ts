/** A BCF file of either version, entry by entry: what it holds of others is asked for one after the other. */
import type { BcfDocumentReference, BcfFile, BcfNote, BcfTopic, BcfVersion, BcfViewpoint } from './bcf-file.ts';
import { guidFrom, guidOf } from './bcf-guid.ts';
import type { Note } from './read-viewpoint.ts';
import { isSeen, viewpointXml } from './write-viewpoint.ts';
import { writeXml, type Written } from './write-xml.ts';

export interface BcfEntry {
  name: string;
  bytes: Uint8Array;
}
/** What stands where a version wants something that nobody said. */
const FILLED = { title: '(no title)', word: 'Undefined', author: 'unknown', date: '1970-01-01T00:00:00Z' };

/**
 * `read`: an entry of the archive that `file` was read from. `onNote` hears what the version cannot say, and what was filled in because it
 * wants it.
 */
export async function* writeBcf(
  file: BcfFile,
  version: BcfVersion,
  read: (entry: string) => Promise<Uint8Array>,
  onNote: (note: BcfNote) => void,
): AsyncGenerator<BcfEntry> {
  const isNew = version === '3.0';
  yield {
    name: 'bcf.version',
    bytes: writeXml({ Version: { '@VersionId': version, ...(!isNew && { DetailedVersion: version }) } }),
  };
  if (file.project) yield { name: 'project.bcfp', bytes: writeXml(projectXml(file.project, version)) };
  if (isNew) yield { name: 'extensions.xml', bytes: writeXml(extensionsXml(file.topics)) };
  const shared = new Map<string, { fileName: string; entry: string; description: string | null }>();
  for (const topic of file.topics) {
    const note: Note = (code, values = {}) => onNote({ code, topic: topic.guid, values });
    const writer = new TopicWriter(topic, version, shared, note);
    yield* writer.entries(read);
  }
  for (const [guid, { entry }] of shared) yield { name: `Documents/${guid}`, bytes: await read(entry) };
  if (shared.size)
    yield {
      name: 'documents.xml',
      bytes: writeXml({
        DocumentInfo: {
          Documents: {
            Document: [...shared].map(([guid, { fileName, description }]) => ({
              '@Guid': guid,
              Filename: fileName,
              Description: description ?? undefined,
            })),
          },
        },
      }),
    };
}

function projectXml({ id, name }: NonNullable<BcfFile['project']>, version: BcfVersion): Written {
  const guid = (id && guidFrom(id)) || guidOf(`project ${id ?? ''} ${name ?? ''}`);
  const project = { '@ProjectId': guid, Name: name ?? undefined };
  return version === '3.0'
    ? { ProjectInfo: { Project: project } }
    : { ProjectExtension: { Project: project, ExtensionSchema: '' } };
}

/** Every word that a topic uses. */
function extensionsXml(topics: readonly BcfTopic[]): Written {
  const used = (of: (topic: BcfTopic) => readonly (string | null)[]): string[] => [
    ...new Set(topics.flatMap(of).filter((word): word is string => word !== null && word.trim() !== '')),
  ];
  const words = {
    TopicTypes: ['TopicType', used(({ type }) => [type ?? FILLED.word])],
    TopicStatuses: ['TopicStatus', used(({ status }) => [status ?? FILLED.word])],
    Priorities: ['Priority', used(({ priority }) => [priority])],
    TopicLabels: ['TopicLabel', used(({ labels }) => labels)],
    Users: [
      'User',
      used(({ author, modifiedAuthor, assignedTo, comments }) => [
        ...[author, modifiedAuthor, assignedTo],
        ...comments.flatMap((comment) => [comment.author, comment.modifiedAuthor]),
      ]),
    ],
    SnippetTypes: ['SnippetType', used(({ snippet }) => [snippet?.type ?? null])],
    Stages: ['Stage', used(({ stage }) => [stage])],
  } as const;
  return {
    Extensions: Object.fromEntries(
      Object.entries(words).map(([list, [name, all]]) => [list, all.length ? { [name]: all } : undefined]),
    ),
  };
}

class TopicWriter {
  private readonly guid: string;
  private readonly isNew: boolean;
  /** Files that go along: name in the folder → entry that they are taken from. */
  private readonly files = new Map<string, string>();

  constructor(
    private readonly topic: BcfTopic,
    private readonly version: BcfVersion,
    private readonly shared: Map<string, { fileName: string; entry: string; description: string | null }>,
    private readonly note: Note,
  ) {
    this.guid = this.own(topic.guid, 'topic');
    this.isNew = version === '3.0';
  }

  async *entries(read: (entry: string) => Promise<Uint8Array>): AsyncGenerator<BcfEntry> {
    const viewpoints = this.topic.viewpoints.map((viewpoint, i) => this.viewpoint(viewpoint, i));
    yield { name: `${this.guid}/markup.bcf`, bytes: writeXml(this.markup(viewpoints.map(({ told }) => told))) };
    for (const { file, seen } of viewpoints)
      if (file && seen) yield { name: `${this.guid}/${file}`, bytes: writeXml(seen) };
    for (const [name, entry] of this.files) yield { name: `${this.guid}/${name}`, bytes: await read(entry) };
  }

  /** Its GUID; one that is always the same where it has none. */
  private own(said: string, what: string): string {
    const guid = guidFrom(said);
    if (guid) return guid;
    this.note('new-guid', { what, value: said });
    return guidOf(`${what} ${this.topic.guid} ${said}`);
  }
  private filled(value: string | null, field: keyof typeof FILLED, what: string): string {
    if (value !== null && value.trim() !== '') return value;
    this.note('filled', { field: what });
    return FILLED[field];
  }
  /** As xs:dateTime. */
  private date(said: string | null, what: string): string {
    const date = dateTime(said);
    if (date) return date;
    this.note('filled', { field: what, value: said ?? '' });
    return dateTime(this.topic.created) ?? FILLED.date;
  }
  private dateOrNone(said: string | null, what: string): string | undefined {
    return said === null ? undefined : this.date(said, what);
  }
  /** A file of the folder, under a name that no other has there. */
  private keep(entry: string, wanted: string): string {
    const bare =
      wanted
        .split(/[\\/]/)
        .at(-1)!
        .replace(/[^\w .()-]/g, '_') || 'file';
    let name = bare;
    for (let n = 2; this.files.has(name) && this.files.get(name) !== entry; n++) name = `${n} ${bare}`;
    this.files.set(name, entry);
    return name;
  }

  private viewpoint(viewpoint: BcfViewpoint, i: number): { told: Written; file: string | null; seen: Written | null } {
    const guid = viewpoint.guid ? this.own(viewpoint.guid, 'viewpoint') : this.own(`${i + 1}`, 'viewpoint');
    const file = isSeen(viewpoint) ? `${guid}.bcfv` : null;
    const bitmapName = (bitmap: BcfViewpoint['bitmaps'][number], number: number): string =>
      bitmap.entry ? this.keep(bitmap.entry, `${guid} ${number}.${extensionOf(bitmap.entry)}`) : bitmap.reference;
    const seen = file ? viewpointXml(viewpoint, guid, this.version, bitmapName, this.note) : null;
    const { snapshot, index } = viewpoint;
    const told: Written = {
      '@Guid': guid,
      Viewpoint: file ?? undefined,
      Snapshot: snapshot ? this.keep(snapshot, `${guid}.${extensionOf(snapshot)}`) : undefined,
      Index: index ?? undefined,
    };
    return { told, file, seen };
  }

  private markup(viewpoints: Written[]): Written {
    const { topic, isNew } = this;
    const files = topic.header.map((file): Written => ({
      '@IfcProject': file.project ?? undefined,
      '@IfcSpatialStructureElement': file.spatialElement ?? undefined,
      [isNew ? '@IsExternal' : '@isExternal']: file.isExternal,
      Filename: file.fileName ?? undefined,
      Date: dateTime(file.date) ?? undefined,
      Reference: file.reference ?? undefined,
    }));
    const comments = topic.comments.map((comment, i) => this.comment(comment, i));
    if (!isNew && topic.assignedId) this.note('not-in-version', { field: 'ServerAssignedId', value: topic.assignedId });
    return {
      Markup: {
        Header: files.length ? (isNew ? { Files: { File: files } } : { File: files }) : undefined,
        Topic: {
          '@Guid': this.guid,
          '@ServerAssignedId': (isNew && topic.assignedId) || undefined,
          '@TopicType': isNew ? this.filled(topic.type, 'word', 'TopicType') : (topic.type ?? undefined),
          '@TopicStatus': isNew ? this.filled(topic.status, 'word', 'TopicStatus') : (topic.status ?? undefined),
          ...this.many('ReferenceLinks', 'ReferenceLink', topic.referenceLinks),
          Title: this.filled(topic.title, 'title', 'Title'),
          Priority: topic.priority ?? undefined,
          Index: topic.index ?? undefined,
          ...(isNew ? this.many('Labels', 'Label', topic.labels) : { Labels: topic.labels }),
          CreationDate: this.date(topic.created, 'CreationDate'),
          CreationAuthor: this.filled(topic.author, 'author', 'CreationAuthor'),
          ModifiedDate: this.dateOrNone(topic.modified, 'ModifiedDate'),
          ModifiedAuthor: topic.modifiedAuthor ?? undefined,
          DueDate: this.dateOrNone(topic.due, 'DueDate'),
          AssignedTo: topic.assignedTo ?? undefined,
          Stage: topic.stage ?? undefined,
          Description: topic.description ?? undefined,
          BimSnippet: this.snippet(),
          ...this.many(
            'DocumentReferences',
            'DocumentReference',
            topic.documents.flatMap((document, i) => this.document(document, i)),
          ),
          ...this.many(
            'RelatedTopics',
            'RelatedTopic',
            topic.related.map((guid) => ({ '@Guid': guidFrom(guid) ?? guidOf(`topic ${guid} ${guid}`) })),
          ),
          ...(isNew && {
            Comments: comments.length ? { Comment: comments } : undefined,
            Viewpoints: viewpoints.length ? { ViewPoint: viewpoints } : undefined,
          }),
        },
        ...(!isNew && { Comment: comments, Viewpoints: viewpoints }),
      },
    };
  }

  /** 3.0 has a list around them. */
  private many(list: string, name: string, all: readonly Written[] | readonly string[]): Written {
    if (!all.length) return {};
    return this.isNew ? { [list]: { [name]: all } } : { [name]: all };
  }

  private comment(comment: BcfTopic['comments'][number], i: number): Written {
    const isBlank = comment.text.trim() === '';
    return {
      '@Guid': comment.guid ? this.own(comment.guid, 'comment') : this.own(`${i + 1}`, 'comment'),
      Date: this.date(comment.date, 'Comment/Date'),
      Author: this.filled(comment.author, 'author', 'Comment/Author'),
      Comment: isBlank && this.isNew ? undefined : comment.text,
      Viewpoint: comment.viewpoint ? { '@Guid': this.own(comment.viewpoint, 'viewpoint') } : undefined,
      ModifiedDate: this.dateOrNone(comment.modified, 'Comment/ModifiedDate'),
      ModifiedAuthor: comment.modifiedAuthor ?? undefined,
    };
  }

  private snippet(): Written | undefined {
    const { snippet } = this.topic;
    if (!snippet) return undefined;
    return {
      '@SnippetType': snippet.type,
      [this.isNew ? '@IsExternal' : '@isExternal']: snippet.isExternal,
      Reference: snippet.entry ? this.keep(snippet.entry, snippet.reference) : snippet.reference,
      ReferenceSchema: snippet.schema ?? '',
    };
  }

  private document(document: BcfDocumentReference, i: number): Written[] {
    const { guid, description, url, entry, fileName } = document;
    const own = { '@Guid': this.own(guid ?? `${i + 1}`, 'document') };
    const said = description ?? undefined;
    if (url !== null)
      return this.isNew
        ? [{ ...own, Url: url, Description: said }]
        : [{ ...own, '@isExternal': true, ReferencedDocument: url, Description: said }];
    // What the archive said it has, and has not, cannot be written again.
    if (!entry) return [];
    const name = fileName ?? entry.split('/').at(-1)!;
    if (!this.isNew)
      return [{ ...own, '@isExternal': false, ReferencedDocument: this.keep(entry, name), Description: said }];
    const documentGuid = (document.documentGuid && guidFrom(document.documentGuid)) || guidOf(`document ${entry}`);
    this.shared.set(documentGuid, { fileName: name, entry, description });
    return [{ ...own, DocumentGuid: documentGuid, Description: said }];
  }
}

const extensionOf = (entry: string): string => /\.(jpe?g)$/i.exec(entry)?.[1]!.toLowerCase() ?? 'png';

/** xs:dateTime from what a date looks like; null where it is none. */
function dateTime(said: string | null): string | null {
  const text = said?.trim() ?? '';
  if (/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d+)?(?:Z|[+-]\d\d:\d\d)?$/.test(text) && !Number.isNaN(Date.parse(text)))
    return text;
  if (/^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text))) return `${text}T00:00:00Z`;
  const date = new Date(text);
  return text && !Number.isNaN(date.getTime()) ? date.toISOString() : null;
}
