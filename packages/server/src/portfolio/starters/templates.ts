import type { Convention } from '@kindred/core/naming/convention';
import type { TemplateContent } from '@kindred/contract/portfolio/templates';
import { STARTER_REVISIONS } from '@kindred/core/register/revision';
import { BUILDING_CONVENTION, CORRIDOR_CONVENTION, STARTER_CLASSIFICATIONS, STARTER_STATUSES } from './naming.ts';
import { APPROVER_ROLE, STARTER_ROLES, TEAM_COLOURS } from './people.ts';
import { STARTER_CODES } from './review.ts';

export interface StarterTemplate {
  id: string;
  name: string;
  description: string;
  content: TemplateContent;
}

/** A home folder for each team with drawings and models, and one for what all share. */
function starter(
  teamNames: [name: string, discipline: string][],
  shared: string[],
  convention: Convention,
): TemplateContent {
  const folder = (path: string[], team: string) => ({ path, team, convention: '', permissions: [] });
  return {
    roles: STARTER_ROLES,
    teams: teamNames.map(([name, discipline], i) => ({ name, discipline, colour: TEAM_COLOURS[i]!, home: name })),
    folders: [
      ...teamNames.flatMap(([name]) => [
        folder([name], name),
        folder([name, 'Drawings'], name),
        folder([name, 'Models'], name),
      ]),
      ...shared.map((name) => folder([name], '')),
    ],
    conventions: [convention],
    schemes: { statuses: STARTER_STATUSES, revisions: STARTER_REVISIONS, classifications: STARTER_CLASSIFICATIONS },
    routes: [
      { name: 'One reviewer', steps: [{ name: 'Review', days: 5, role: APPROVER_ROLE }] },
      {
        name: 'Check, then approve',
        steps: [
          { name: 'Check', days: 5, role: APPROVER_ROLE },
          { name: 'Approve', days: 3, role: APPROVER_ROLE },
        ],
      },
    ],
    returnCodes: STARTER_CODES as TemplateContent['returnCodes'],
  };
}

export const STARTER_TEMPLATES: StarterTemplate[] = [
  {
    id: 'building',
    name: 'A building',
    description: 'Architecture, structure and services deliver; one naming convention by storey.',
    content: starter(
      [
        ['Architecture', 'Architecture'],
        ['Structure', 'Structural engineering'],
        ['Services', 'Building services'],
      ],
      ['Project documents'],
      BUILDING_CONVENTION,
    ),
  },
  {
    id: 'corridor',
    name: 'A road, rail or water line',
    description: 'Alignment, structures, ground and utilities deliver; one naming convention by section.',
    content: starter(
      [
        ['Alignment', 'Civil engineering'],
        ['Structures', 'Structural engineering'],
        ['Ground and water', 'Geotechnical engineering'],
        ['Utilities', 'Utilities'],
      ],
      ['Survey', 'Project documents'],
      CORRIDOR_CONVENTION,
    ),
  },
];
