/** What each cell of the roles grid opens. */
import type { Action, Kind } from '@kindred/core/people/rights';

const OPENS: Record<Kind, Partial<Record<Action, string>>> = {
  project: { change: 'Change the details of the project' },
  people: {
    see: 'See the people of the project',
    add: 'Add people to your own team, with roles that may do no more than yours',
    change: 'Change people of your own team, give them roles that may do no more than yours, let them go',
    manage: 'The same for all teams; add and change teams, and roles that may do no more than yours',
  },
  naming: {
    see: 'Try what another convention would do to names',
    change: 'Allow a new value in a list of a convention',
    manage: 'Change conventions and the codes of the project',
  },
  register: {
    see: 'See the register, the board and files',
    add: 'Deliver files, reserve, restore versions',
    change: 'Change values, move, share, publish, archive and withdraw; share sets; confirm sheets',
    delete:
      'Put containers into the bin and restore them; remove empty folders that you manage; take files of others off the intake',
    manage:
      'Repair names and codes, see the intake of all teams, bring back from the archive; folders and their permissions; gates',
  },
  markup: {
    see: 'See published markups',
    add: 'Draw, publish and remove your own',
    change: 'Change the words and shape of those of others',
  },
  scene: { see: 'See models and viewpoints', add: 'Save viewpoints' },
  issues: {
    see: 'See issues on what you may see',
    add: 'Raise and comment; go on with those you raised or are responsible for',
    change: 'Change, pass on and void those of others',
  },
  review: { see: 'See reviews that concern you, answer as a reviewer', add: 'Start reviews' },
  transmittal: {
    see: 'See transmittals that you sent or got',
    add: 'Send files',
    manage: 'See the transmittals of all',
  },
};
export const opens = (kind: Kind, action: Action): string => OPENS[kind][action] ?? '';
