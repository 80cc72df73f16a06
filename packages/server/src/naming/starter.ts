import type { Convention } from '@kindred/core/naming/convention';
import type { Code } from '@kindred/contract/naming/naming';

/** project – originator – functional breakdown – spatial breakdown – form – discipline – number (ISO 19650-2). */
export function starterConvention(projectCode: string, originators: Code[] = []): Convention {
  return {
    name: 'Project information',
    separator: '-',
    fields: [
      { name: 'Project', kind: 'list', values: [{ code: projectCode, meaning: 'This project' }] },
      originators.length
        ? { name: 'Originator', kind: 'list', values: originators }
        : { name: 'Originator', kind: 'pattern', pattern: '[A-Z0-9]+', minLength: 2, maxLength: 6 },
      {
        name: 'Function',
        kind: 'list',
        values: [
          { code: 'ZZ', meaning: 'All functions' },
          { code: 'BH', meaning: 'Boat hall' },
          { code: 'CB', meaning: 'Crew building' },
          { code: 'SY', meaning: 'Slipway and yard' },
        ],
      },
      {
        name: 'Space',
        kind: 'list',
        values: [
          { code: '00', meaning: 'Ground floor' },
          { code: '01', meaning: 'First floor' },
          { code: '02', meaning: 'Second floor' },
          { code: 'RF', meaning: 'Roof' },
          { code: 'XX', meaning: 'No level' },
          { code: 'ZZ', meaning: 'All levels' },
        ],
      },
      {
        name: 'Form',
        kind: 'list',
        values: [
          { code: 'D', meaning: 'Drawing' },
          { code: 'M', meaning: 'Model' },
          { code: 'R', meaning: 'Report' },
          { code: 'L', meaning: 'Schedule' },
          { code: 'I', meaning: 'Picture' },
        ],
      },
      {
        name: 'Discipline',
        kind: 'list',
        values: [
          { code: 'A', meaning: 'Architecture' },
          { code: 'S', meaning: 'Structure' },
          { code: 'M', meaning: 'Mechanical' },
          { code: 'E', meaning: 'Electrical' },
          { code: 'C', meaning: 'Civil' },
        ],
      },
      { name: 'Number', kind: 'number', length: 4 },
    ],
  };
}

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
