/** What a BCF file says (buildingSMART BCF 2.1 and 3.0), in the raw words of the file. Lengths in metres, Z up. */
export const BCF_VERSIONS = ['2.1', '3.0'] as const;
export type BcfVersion = (typeof BCF_VERSIONS)[number];
export type BcfPoint = [x: number, y: number, z: number];

export interface BcfHeaderFile {
  /** GlobalIds; null where they are not said. */
  project: string | null;
  spatialElement: string | null;
  isExternal: boolean;
  fileName: string | null;
  date: string | null;
  reference: string | null;
}
export interface BcfComponent {
  ifcGuid: string | null;
  originatingSystem: string | null;
  authoringToolId: string | null;
}
export interface BcfCamera {
  kind: 'perspective' | 'orthogonal';
  position: BcfPoint;
  direction: BcfPoint;
  up: BcfPoint;
  /** Degrees; of a perspective one. */
  fieldOfView?: number;
  /** Metres from the lower to the upper edge; of an orthogonal one. */
  scale?: number;
  /** Width by height; 3.0 only. */
  aspectRatio?: number;
}
export interface BcfBitmap {
  format: string;
  /** Name of the file in the archive; null where it is not there. */
  entry: string | null;
  reference: string;
  location: BcfPoint;
  normal: BcfPoint;
  up: BcfPoint;
  height: number;
}
export interface BcfSetupHints {
  spaces: boolean;
  spaceBoundaries: boolean;
  openings: boolean;
}
export interface BcfViewpoint {
  guid: string;
  index: number | null;
  /** Null where the file says none. */
  camera: BcfCamera | null;
  selection: BcfComponent[];
  visibility: { default: boolean; exceptions: BcfComponent[]; hints: BcfSetupHints | null } | null;
  /** Colours as the file writes them: hexadecimal, opacity first where it is said. */
  colours: { colour: string; components: BcfComponent[] }[];
  sections: { location: BcfPoint; direction: BcfPoint }[];
  lines: [BcfPoint, BcfPoint][];
  bitmaps: BcfBitmap[];
  /** Name of the snapshot in the archive; null without one. */
  snapshot: string | null;
}
export interface BcfComment {
  guid: string;
  author: string | null;
  date: string | null;
  text: string;
  /** GUID of a viewpoint. */
  viewpoint: string | null;
  modifiedAuthor: string | null;
  modified: string | null;
}
export interface BcfDocumentReference {
  guid: string | null;
  description: string | null;
  /** Where it lies outside. */
  url: string | null;
  /** Of a document in the file: its name there, and what people call it. */
  entry: string | null;
  fileName: string | null;
  /** 3.0: of the document that several topics may share. */
  documentGuid: string | null;
}
export interface BcfSnippet {
  type: string;
  isExternal: boolean;
  reference: string;
  schema: string | null;
  entry: string | null;
}
export interface BcfTopic {
  guid: string;
  /** As a server counts it; 3.0 only. */
  assignedId: string | null;
  title: string;
  description: string | null;
  type: string | null;
  status: string | null;
  priority: string | null;
  stage: string | null;
  index: number | null;
  author: string | null;
  created: string | null;
  modifiedAuthor: string | null;
  modified: string | null;
  assignedTo: string | null;
  due: string | null;
  labels: string[];
  referenceLinks: string[];
  header: BcfHeaderFile[];
  snippet: BcfSnippet | null;
  documents: BcfDocumentReference[];
  related: string[];
  comments: BcfComment[];
  viewpoints: BcfViewpoint[];
}
/** What was noticed while a file was read or written. `topic`: GUID. */
export interface BcfNote {
  code: BcfNoteCode;
  topic: string | null;
  values: Readonly<Record<string, string | number>>;
}
export type BcfNoteCode =
  | 'unknown-version'
  | 'unreadable-part'
  | 'unreadable-topic'
  | 'no-title'
  | 'same-guid'
  | 'new-guid'
  | 'no-viewpoint-file'
  | 'unreadable-viewpoint'
  | 'no-snapshot'
  | 'no-document'
  | 'unsafe-name'
  | 'two-cameras'
  | 'not-a-number'
  | 'filled'
  | 'not-in-version';

export interface BcfFile {
  version: BcfVersion;
  project: { id: string | null; name: string | null } | null;
  topics: BcfTopic[];
  notes: BcfNote[];
}

/** The files of an archive by their names, with `/` between folders. */
export interface BcfArchive {
  names: readonly string[];
  /** Throws CodedError `bcf-damaged` where its content is not what the archive says. */
  read(name: string): Promise<Uint8Array>;
}
