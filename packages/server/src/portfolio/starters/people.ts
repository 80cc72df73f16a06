import type { Grid } from '@kindred/core/people/rights';

/** The roles that a new project starts with. */
export const STARTER_ROLES: { name: string; grid: Grid }[] = [
  {
    name: 'Coordinator',
    grid: {
      project: ['change'],
      people: ['see', 'add', 'change'],
      naming: ['see', 'change', 'manage'],
      register: ['see', 'add', 'change', 'delete', 'manage'],
      markup: ['see', 'add', 'change'],
      scene: ['see', 'add'],
      issues: ['see', 'add', 'change'],
      review: ['see', 'add'],
      transmittal: ['see', 'add', 'manage'],
    },
  },
  {
    name: 'Author',
    grid: {
      people: ['see'],
      naming: ['see'],
      register: ['see', 'add', 'change'],
      markup: ['see', 'add'],
      scene: ['see', 'add'],
      issues: ['see', 'add'],
      review: ['see', 'add'],
      transmittal: ['see', 'add'],
    },
  },
  {
    name: 'Reviewer',
    grid: {
      people: ['see'],
      naming: ['see'],
      register: ['see'],
      markup: ['see', 'add'],
      scene: ['see', 'add'],
      issues: ['see', 'add'],
      review: ['see'],
      transmittal: ['see'],
    },
  },
  {
    name: 'Document controller',
    grid: {
      people: ['see', 'add'],
      naming: ['see', 'change'],
      register: ['see', 'add', 'change', 'delete', 'manage'],
      markup: ['see', 'add'],
      scene: ['see', 'add'],
      issues: ['see', 'add'],
      review: ['see', 'add'],
      transmittal: ['see', 'add', 'manage'],
    },
  },
  {
    name: 'Client',
    grid: {
      people: ['see'],
      register: ['see'],
      scene: ['see'],
      issues: ['see', 'add'],
      review: ['see'],
      transmittal: ['see'],
    },
  },
];
/** The role that whoever starts a project gets, besides administering it. */
export const CREATOR_ROLE = 'Coordinator';
/** The role that the starter review routes ask. */
export const APPROVER_ROLE = 'Reviewer';

/** Fixed, told apart with any kind of colour vision. */
export const TEAM_COLOURS = ['#3F6188', '#B4502D', '#14706A', '#7A4FA3', '#B97A10', '#5B6B2F'];
