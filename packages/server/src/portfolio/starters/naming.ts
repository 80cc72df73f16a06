import type { FieldValue, Convention } from '@kindred/core/naming/convention';
import type { Code } from '@kindred/contract/naming/naming';

/** Stands in a template for the code of the project that is started from it. */
export const PROJECT_CODE = '{project}';

const values = (pairs: Record<string, string>): FieldValue[] =>
  Object.entries(pairs).map(([code, meaning]) => ({ code, meaning }));

const FORMS = values({ D: 'Drawing', M: 'Model', R: 'Report', L: 'Schedule', I: 'Picture' });

/** project – originator – functional breakdown – spatial breakdown – form – discipline – number (ISO 19650-2). */
const convention = (
  name: string,
  functions: FieldValue[],
  spaces: FieldValue[],
  disciplines: FieldValue[],
): Convention => ({
  name,
  separator: '-',
  fields: [
    { name: 'Project', kind: 'list', values: [{ code: PROJECT_CODE, meaning: 'This project' }] },
    { name: 'Originator', kind: 'pattern', pattern: '[A-Z0-9]+', minLength: 2, maxLength: 6 },
    { name: 'Function', kind: 'list', values: functions },
    { name: 'Space', kind: 'list', values: spaces },
    { name: 'Form', kind: 'list', values: FORMS },
    { name: 'Discipline', kind: 'list', values: disciplines },
    { name: 'Number', kind: 'number', length: 4 },
  ],
});

export const BUILDING_CONVENTION = convention(
  'Project information',
  values({ ZZ: 'All functions', BH: 'Main building', CB: 'Side building', SY: 'Site and yard' }),
  values({
    '00': 'Ground floor',
    '01': 'First floor',
    '02': 'Second floor',
    B1: 'Basement',
    RF: 'Roof',
    XX: 'No level',
    ZZ: 'All levels',
  }),
  values({ A: 'Architecture', S: 'Structure', M: 'Mechanical', E: 'Electrical', C: 'Civil' }),
);

export const CORRIDOR_CONVENTION = convention(
  'Corridor information',
  values({ ZZ: 'All functions', AL: 'Alignment', EW: 'Earthworks', ST: 'Structures', DR: 'Drainage', UT: 'Utilities' }),
  values({ S1: 'Section 1', S2: 'Section 2', S3: 'Section 3', XX: 'No section', ZZ: 'All sections' }),
  values({ C: 'Civil', S: 'Structure', G: 'Ground', H: 'Water', E: 'Electrical', L: 'Landscape' }),
);

/** Suitability codes of ISO 19650-2 with the usual national annex: data, which a project may change. */
export const STARTER_STATUSES: Code[] = [
  { code: 'S0', meaning: 'Work in progress' },
  { code: 'S1', meaning: 'Suitable for coordination' },
  { code: 'S2', meaning: 'Suitable for information' },
  { code: 'S3', meaning: 'Suitable for review and comment' },
  { code: 'S4', meaning: 'Suitable for stage approval' },
  { code: 'A1', meaning: 'Authorised and accepted, stage 1' },
  { code: 'A2', meaning: 'Authorised and accepted, stage 2' },
  { code: 'B1', meaning: 'Partial sign-off with comments, stage 1' },
  { code: 'CR', meaning: 'As-constructed record' },
];

export const STARTER_CLASSIFICATIONS: Code[] = [
  { code: 'M-ARC', meaning: 'Architectural model' },
  { code: 'M-STR', meaning: 'Structural model' },
  { code: 'M-MEP', meaning: 'Services model' },
  { code: 'D-PLN', meaning: 'Plan' },
  { code: 'D-SEC', meaning: 'Section' },
  { code: 'D-ELE', meaning: 'Elevation' },
  { code: 'D-DET', meaning: 'Detail' },
  { code: 'R-GEN', meaning: 'Report' },
];
