/** Why a file cannot be read, and what was noticed while it was. */
import type { CodedError, Values } from '@kindred/core/platform/coded-error';
import type { FileKind } from '@kindred/core/register/file-kind';
import { counted, sentence, type Say } from './sentence.ts';

const ERRORS: Record<string, Say> = {
  empty: () => 'This file is empty.',
  'no-step-file': () => 'This is not an IFC file: it does not begin with “ISO-10303-21;”.',
  'no-data-section': () => 'This IFC file has no data section: its export was probably interrupted.',
  'cut-off': () => 'This IFC file ends in the middle (no “END-ISO-10303-21;”). Export or upload it again.',
  'damaged-model': () => 'This IFC file is damaged: its lines cannot be read as a model. Export it again.',
  'unknown-schema': ({ schema }) =>
    `This IFC file ${schema ? `is written in “${schema}”` : 'names no schema'}. Models in IFC2X3, IFC4 and IFC4X3 can be read: export it in one of these.`,
  'damaged-gltf': ({ reason }) => `This glTF file cannot be read: ${reason}. Export it again.`,
  'gltf-beside': ({ files }) =>
    `This glTF file needs ${(files as readonly string[]).join(', ')} beside it. Export it as one file (.glb), and deliver that.`,
  'damaged-obj': ({ reason }) => `This OBJ file cannot be read: ${reason}. Export it again.`,
  'not-text': () => 'This file is not text: it may be a workbook or an archive. Nothing was changed.',
  'no-picture': () => 'The picture is not a whole PNG.',
  'picture-too-large': ({ width, height }) => `The picture is too large: ${width} × ${height} pixels.`,
  'pdf-encrypted': () => 'This PDF asks for a password. Save it without one, then try again.',
  'pdf-damaged': () => 'This is no PDF, or it is damaged. Export it again.',
  'xfdf-damaged': () => 'This is no XFDF file, or it is damaged: its XML cannot be read. Export it again.',
  'xfdf-entities': () =>
    'This XFDF file declares entities of its own. Markups need none, and they are not resolved here: export it without a document type.',
  'no-zip': () => 'This is no archive (zip), or it is damaged. Export it again.',
  'zip-encrypted': ({ name }) => `This archive asks for a password (${String(name)}). Save it without one.`,
  'zip-damaged': ({ name }) =>
    `This archive is damaged: “${String(name)}” is not what was packed into it. Export it again.`,
  'zip-too-large': ({ name }) =>
    `This archive unpacks to more than anybody needs${name === undefined ? '' : ` (${String(name)})`}: it is not read.`,
  'odata-filter': ({ at }) => `The filter cannot be read at “${String(at)}”. Nothing was listed.`,
  'odata-order': ({ at }) => `The order cannot be read at “${String(at)}”. Nothing was listed.`,
  'bcf-no-file': () => 'This is no BCF file: it has neither bcf.version nor a topic.',
  'bcf-xml': ({ name, reason }) =>
    `This BCF file is damaged: “${String(name)}” is no XML that can be read (${String(reason)}).`,
  'bcf-entities': ({ name }) =>
    `This BCF file declares entities of its own in “${String(name)}”. None are needed, and they are not resolved here.`,
  'not-json': () => 'This file is not JSON. Nothing was changed.',
  'no-roles': () => 'This file holds no roles. Export roles from a project to see what such a file looks like.',
  'role-name': ({ number, longest }) => `Role ${number} has no name of 1 to ${longest} characters.`,
  'role-twice': ({ name }) => `Two roles of the file are called “${name}”.`,
  'no-grid': ({ name }) => `“${name}” has no grid.`,
  'unknown-kind': ({ name, kind }) => `“${name}” names “${kind}”, which is no kind of thing here.`,
  'unknown-action': ({ name, kind, action, possible }) =>
    `“${name}” has “${action}” for “${kind}”. Possible are: ${(possible as readonly string[]).join(', ')}.`,
};
export const FILE_KIND_NOUN: Record<FileKind, string> = {
  model: 'a model (IFC, glTF or OBJ)',
  drawing: 'a PDF',
  image: 'a picture',
  document: 'a document',
};
/** A file that stopped whoever read it, twice. */
export const unreadableFile = (kind: FileKind): string =>
  `This file could not be read as ${FILE_KIND_NOUN[kind]}: it is probably damaged. It is kept as it is. Export it again, and deliver it as the next version.`;

export const fileError = ({ code, values }: CodedError): string => sentence(ERRORS, code, values);

const NOTES: Record<string, Say> = {
  'no-shapes': () => 'No element in this file has a shape that can be drawn.',
  'read-until-cut': ({ elements }) =>
    `This file ends in the middle: ${counted(Number(elements), 'element')} before its end could be read, the rest is missing. Export or upload it again.`,
  'damaged-lines': ({ count, lines }) =>
    `${counted(Number(count), 'damaged statement')} left out (line ${andMore(lines, Number(count))}). Export the file again.`,
  undrawn: ({ count, names }) =>
    `${counted(Number(count), 'element')} could not be drawn: ${andMore(names, Number(count))}.`,
  unplaced: ({ count, names }) =>
    `${counted(Number(count), 'element')} drawn at the origin, because ${Number(count) === 1 ? 'its place is' : 'their places are'} not in the file: ${andMore(names, Number(count))}.`,
  'same-global-id': ({ count, ids }) =>
    `${counted(Number(count), 'GlobalId')} ${Number(count) === 1 ? 'stands' : 'stand'} for more than one element: ${andMore(ids, Number(count))}.`,
  'no-length-unit': () => 'The file names no unit of length: metres are assumed.',
  'no-project': () => 'The file has no IfcProject.',
  'no-storeys': () => 'The file has no storeys.',
  'no-textures': () => 'Textures are not shown: surfaces have the colours of their materials.',
  'obj-assumed': () =>
    'OBJ says neither its unit nor which way is up: metres and Y up are assumed, and colours are not read.',
  'far-away': ({ kilometres }) => `The model stands ${kilometres} km from the origin of its file.`,
};
const andMore = (shown: Values[string] | undefined, count: number): string => {
  const list = shown as readonly string[];
  return list.join(', ') + (count > list.length ? ' …' : '');
};
export const modelNote = ({ code, values }: { code: string; values: Values }): string => sentence(NOTES, code, values);

const UNDRAWN: Record<string, Say> = {
  missing: ({ detail }) => `its shape refers to ${detail}, which is not in the file`,
  empty: () => 'its shape holds nothing',
  'lines-only': () => 'it has lines or points, no surface',
  'not-built': ({ detail }) => `its surface (${detail}) could not be computed`,
};
/** Why an element could not be drawn. */
export const undrawnReason = ({ reason, detail }: { reason: string; detail: string }): string =>
  sentence(UNDRAWN, reason, { detail });
