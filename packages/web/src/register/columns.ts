/** A column of the register. */
export interface Column {
  key: string;
  word: string;
  /** As in a grid's template. */
  width: string;
  /** The server sorts by it under this name. */
  sort?: string;
  /** Changed in place. */
  edit?: EditableKey;
  mono?: boolean;
}
export const EDITABLE = ['title', 'revision', 'status', 'classification', 'description'] as const;
export type EditableKey = (typeof EDITABLE)[number];

/** All columns beside the name, which always comes first. */
export const COLUMNS: readonly Column[] = [
  { key: 'version', word: 'Version', width: '44px', mono: true },
  { key: 'revision', word: 'Rev', width: '46px', sort: 'revision', edit: 'revision', mono: true },
  { key: 'status', word: 'Status', width: '42px', sort: 'status', edit: 'status', mono: true },
  { key: 'state', word: 'State', width: '112px', sort: 'state' },
  { key: 'team', word: 'Team', width: '78px' },
  { key: 'delivered', word: 'Delivered', width: '54px', sort: 'deliveredAt', mono: true },
  { key: 'deliveredBy', word: 'Delivered by', width: '110px' },
  { key: 'classification', word: 'Class', width: '84px', sort: 'classification', edit: 'classification', mono: true },
  { key: 'description', word: 'Description', width: 'minmax(120px, 0.7fr)', edit: 'description' },
  { key: 'kind', word: 'Kind', width: '68px', sort: 'kind' },
  { key: 'folder', word: 'Folder', width: '130px' },
  { key: 'file', word: 'File', width: '150px', mono: true },
  { key: 'size', word: 'Size', width: '62px', mono: true },
  { key: 'sheets', word: 'Sheets', width: '48px', mono: true },
  { key: 'reserved', word: 'Reserved', width: '104px' },
];
export const STARTER_COLUMNS = ['version', 'revision', 'status', 'state', 'team', 'delivered'];
const FIELD = 'field:';

/** The column of a key; a part of the code has one of its own. */
export function columnOf(key: string): Column | undefined {
  if (key.startsWith(FIELD)) return { key, word: key.slice(FIELD.length), width: '66px', mono: true };
  return COLUMNS.find((column) => column.key === key);
}
export const fieldColumn = (field: string): string => `${FIELD}${field}`;
export const fieldOf = (key: string): string | undefined =>
  key.startsWith(FIELD) ? key.slice(FIELD.length) : undefined;
