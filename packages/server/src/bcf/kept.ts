/** What a topic says that an issue has no place for: it is kept, and written again. Files by their hashes. */
import type { BcfTopic, BcfViewpoint } from '@kindred/core/bcf/bcf-file';

type Words = Pick<BcfTopic, 'type' | 'status' | 'priority' | 'assignedTo'>;
type Rest = Pick<
  BcfTopic,
  | 'stage'
  | 'index'
  | 'assignedId'
  | 'author'
  | 'created'
  | 'modifiedAuthor'
  | 'referenceLinks'
  | 'header'
  | 'snippet'
  | 'documents'
  | 'related'
>;
export interface KeptTopic extends Rest {
  /** As the other program writes them, while they mean what is here. */
  words: Words;
  viewpoints: BcfViewpoint[];
  /** The viewpoint that became the issue's own. */
  ownViewpoint: string | null;
  /** Viewpoints that comments speak of, by the GUID of the comment. */
  commentViewpoints: Record<string, string>;
}

/** `files`: hashes of what the entries of its archive hold. */
export function keptOf(topic: BcfTopic, files: Readonly<Record<string, string>>): KeptTopic {
  const hashOf = (entry: string | null): string | null =>
    entry && files[entry] ? `${files[entry]}${extensionOf(entry)}` : null;
  const { stage, index, assignedId, author, created, modifiedAuthor, referenceLinks, header, related } = topic;
  const { type, status, priority, assignedTo } = topic;
  return {
    ...{ stage, index, assignedId, author, created, modifiedAuthor, referenceLinks, header, related },
    words: { type, status, priority, assignedTo },
    snippet: topic.snippet && { ...topic.snippet, entry: hashOf(topic.snippet.entry) },
    documents: topic.documents.map((document) => ({ ...document, entry: hashOf(document.entry) })),
    viewpoints: topic.viewpoints.map((viewpoint) => ({
      ...viewpoint,
      snapshot: hashOf(viewpoint.snapshot),
      bitmaps: viewpoint.bitmaps.map((bitmap) => ({ ...bitmap, entry: hashOf(bitmap.entry) })),
    })),
    ownViewpoint: null,
    commentViewpoints: Object.fromEntries(
      topic.comments.flatMap(({ guid, viewpoint }) => (viewpoint ? [[guid.toLowerCase(), viewpoint]] : [])),
    ),
  };
}

const extensionOf = (entry: string): string => /\.[a-z0-9]{1,5}$/i.exec(entry)?.[0].toLowerCase() ?? '';
/** The hash that an entry of a kept topic stands for. */
export const hashIn = (entry: string): string => entry.split('.')[0]!;
