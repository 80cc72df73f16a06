import type { ClashRule, RuledModel } from '@kindred/core/clash/rule';
import type { RuledClash } from '@kindred/core/clash/run-rule';
import type { ChangeCounts } from '@kindred/core/compare/change-counts';
import type { SheetChange } from '@kindred/core/compare/compare-sheets';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import type { Place } from '@kindred/core/compare/numbered';
import type { TaughtLayout } from '@kindred/core/drawing/taught-layout';
import type { AnnotatedMark, PagePlace } from '@kindred/core/markup/annotations/compare';
import type { MarkupToWrite } from '@kindred/core/markup/annotations/of-markup';
import type { FileKind } from '@kindred/core/register/file-kind';
import type { Placing } from '@kindred/core/scene/placing';
import type { PreparedSheet } from '../register/sheets.ts';

/** A PDF with annotations, one with the markups drawn into it, or the annotations alone. */
export type MarkedCopy = 'pdf' | 'flattened pdf' | 'xfdf';

/** A list of markups as a workbook; a row of cells for each markup, in the same order. */
export interface MarkupTable {
  columns: { head: string; width: number }[];
  rows: (string | number | null)[][];
  totals: { columns: { head: string; width: number }[]; rows: (string | number | null)[][] };
}

/** Markups that were read from a file, and the pages that they lie on. */
export interface ReadMarks {
  marks: AnnotatedMark[];
  places: PagePlace[];
  /** Annotations that cannot be taken over. */
  left: number;
}

/** A page of a drawing, and what it draws, packed. */
export interface PageToCompare {
  path: string;
  page: number;
  vectors: Uint8Array;
}

/** A table of a report. */
export interface ReportTable {
  title: string;
  /** Widths in letters. */
  columns: { head: string; width: number }[];
  rows: string[][];
}
/** A pair of sheets in a report of a comparison. */
export interface ReportedSheet {
  title: string;
  beforePage: number;
  afterPage: number;
  similarity: [number, number, number, number];
  /** `ends`: x0, y0, x1, y1 by piece of line. */
  changes: (Pick<SheetChange, 'kind' | 'ends' | 'shift' | 'turn' | 'mirrored'> & {
    number: number;
    place: Place;
    cells: string[];
  })[];
}
/** What a report of a comparison says. */
export interface ComparisonReport {
  as: 'pdf' | 'xlsx';
  title: string;
  verdict: string;
  /** Brief and sheets. */
  tables: ReportTable[];
  /** Of the changes of each sheet. */
  columns: ReportTable['columns'];
  sheets: ReportedSheet[];
}

/** A file that was made of a version before. */
export interface KeptFile {
  path: string;
  gzipped: boolean;
}
/** Of a prepared model. */
export interface ModelFiles {
  /** All parts, in order. */
  scenes: KeptFile[];
  elements: KeptFile;
  properties: KeptFile;
}
/** What a run before has found, and which elements changed since: GlobalIds. */
export interface KeptCarried {
  a: string[];
  b: string[];
  clashes: RuledClash[];
}
export interface ClashQuestion {
  rule: ClashRule;
  /** Of the code of each model. */
  parts: Record<string, string>[];
  /** Of each model; null where it lies as it was delivered. */
  placings: (Placing | null)[];
  /** What line-ups of the sets show of each model. */
  shown: NonNullable<RuledModel['shown']>[];
  carried: KeptCarried | null;
}
/** Something that is found by reading models that were prepared. */
export interface ModelQuestion {
  /** Before and after; of clashes the two, or the one. */
  models: ModelFiles[];
  /** Clashes are looked for; without this and the next what changed. */
  clashes?: ClashQuestion;
  /** They are drawn; how each is put, null as it was delivered. */
  picture?: readonly (Placing | null)[];
}
export interface FoundModelChanges {
  /** What the model did as a whole. */
  motion: Placing | null;
  counts: ChangeCounts;
  changes: ModelChange[];
  /** Elements that are as they were, but under another GlobalId. */
  renamed: number;
}

/** What the preparation process is asked … */
export interface PreparationTask {
  kind: FileKind;
  path: string;
  /** Title blocks of the project that were corrected once, newest first. */
  layouts?: TaughtLayout[];
  /** Pages of a drawing that others get to see; when given, the copy for them is made, and nothing else. */
  sharedPages?: number[];
  /** Markups that a copy of a drawing gets; when given, that is made, and nothing else. */
  markups?: {
    list: MarkupToWrite[];
    as: MarkedCopy | MarkupTable;
    /** Photos and pictures of stamps, by the id of their markup. */
    pictures: Record<string, Uint8Array>;
  };
  /** Its markups are read, or those of an XFDF file onto its pages; nothing else is made. */
  readMarks?: { xfdf?: Uint8Array };
  /** The page of which the words are recognised; nothing else is made. */
  recognise?: number;
  /** Another file that it takes. */
  beside?: string;
  /** A page of the file beside is held against one of this file; nothing else is made. */
  compare?: { before: Omit<PageToCompare, 'path'>; after: Omit<PageToCompare, 'path'>; split: boolean };
  /** A report of how it differs from the file beside is written; nothing else is made. */
  report?: ComparisonReport;
  /** What is found in prepared models; no file but theirs is read, and nothing else is made. */
  question?: ModelQuestion;
  /** A picture is made anew from it, within bounds and with nothing else in it; nothing else is made. */
  picture?: boolean;
  /** It is read as a BCF file, and unpacked; nothing else is made. */
  bcf?: boolean;
  /** It is the archive that a report of issues is made of; nothing else is made. */
  issueReport?: boolean;
  /** An empty folder for the products. */
  output: string;
}

/** At the end of the name of a product that is compressed. */
export const COMPRESSED = '.gz';

/** … and what it answers. A sentence is for the person who delivered the file. */
export type PreparationAnswer =
  | { state: 'preparing' }
  /** `products`: names of files in the folder. */
  | { state: 'ready'; products: string[]; sheets: PreparedSheet[]; note: string }
  | { state: 'failed'; note: string }
  /** Something threw that was not expected: nothing that this process says from now on can be trusted. */
  | { state: 'unsound'; reason: string };

/** What becomes of a file. */
export type Outcome = Exclude<PreparationAnswer, { state: 'preparing' | 'unsound' }>;
