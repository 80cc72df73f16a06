/** The files that the people of the station make: three models and four sheets, in their editions. */
import { Buffer } from 'node:buffer';
import { architecture } from '../building/architecture.ts';
import { electrical, type ElectricalEdition } from '../building/electrical.ts';
import { rooms } from '../building/rooms.ts';
import { services } from '../building/services.ts';
import { structure } from '../building/structure.ts';
import { yard, type YardEdition } from '../building/yard.ts';
import { stationSheets } from '../drawings/station-sheets.ts';
import { writeSheet } from '../drawings/write-sheet.ts';
import { globalId, STATION_SURVEY, writeModel, type ModelOptions } from '../ifc/write-model.ts';
import type { Part } from '../building/parts.ts';
import type { Edition } from '../building/layout.ts';
import type { FileToSend } from './teller.ts';

export const MODELS: {
  code: string;
  title: string;
  classification: string;
  parts: (edition: Edition) => Part[];
  options: Omit<ModelOptions, 'title'>;
}[] = [
  {
    code: 'ORP-TVA-ZZ-ZZ-M-A-0001',
    title: 'Architectural model',
    classification: 'M-ARC',
    parts: architecture,
    options: { organisation: 'Ternvale Architects', schema: 'IFC4', survey: STATION_SURVEY, rooms: rooms() },
  },
  {
    code: 'ORP-HQS-ZZ-ZZ-M-S-0001',
    title: 'Structural model',
    classification: 'M-STR',
    parts: structure,
    options: { organisation: 'Holmquay Structures', schema: 'IFC4', survey: STATION_SURVEY },
  },
  {
    code: 'ORP-BWS-ZZ-ZZ-M-M-0001',
    title: 'Ventilation and pipes model',
    classification: 'M-MEP',
    parts: services,
    options: { organisation: 'Brackwater Services', schema: 'IFC2X3' },
  },
];

export const modelFile = (index: number, edition: Edition): FileToSend => {
  const { code, title, classification, parts, options } = MODELS[index]!;
  return {
    code,
    title,
    classification,
    extension: '.ifc',
    bytes: Buffer.from(writeModel(parts(edition), { title, ...options })),
  };
};

export const electricalFile = (edition: ElectricalEdition): FileToSend =>
  furtherModel('ORP-BWS-ZZ-ZZ-M-E-0001', 'Electrical model', 'M-MEP', 'Brackwater Services', electrical(edition));
export const yardFile = (edition: YardEdition): FileToSend =>
  furtherModel('ORP-HQS-SY-ZZ-M-C-0001', 'Slipway and yard model', 'M-STR', 'Holmquay Structures', yard(edition));

function furtherModel(
  code: string,
  title: string,
  classification: string,
  organisation: string,
  parts: Part[],
): FileToSend {
  const text = writeModel(parts, { title, organisation, schema: 'IFC4', survey: STATION_SURVEY });
  return { code, title, classification, extension: '.ifc', bytes: Buffer.from(text) };
}

/** GlobalId of a part in one of the models. */
export const elementId = (model: number, key: string): string => globalId(`${MODELS[model]!.title}/${key}`);

export async function sheetFiles(edition: Edition, revision: string, date: string): Promise<FileToSend[]> {
  const kinds = ['D-PLN', 'D-PLN', 'D-SEC', 'D-ELE'];
  return Promise.all(
    stationSheets(edition).map(async (sheet, i) => ({
      code: sheet.number,
      title: sheet.title,
      classification: kinds[i]!,
      extension: '.pdf',
      bytes: await writeSheet({ ...sheet, revision, status: 'S3', date, drawnBy: 'L. Asantewa' }),
    })),
  );
}
