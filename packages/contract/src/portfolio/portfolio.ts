import { CALLOUT_NUMBERING, CALLOUT_TAGS } from '@kindred/core/markup/callouts';
import { WORK_AREAS } from '@kindred/core/people/rights';
import { Type, type Static, type TOptional } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Grid } from '../platform/rights.ts';
import { Day, Edition, Id, Line, Moment, Nullable, OneOf, operation, OptionalLine } from '../platform/operation.ts';
import { TemplateRef } from './templates.ts';

export const PROJECT_KINDS = {
  Buildings: ['Housing', 'Offices', 'School', 'Hospital', 'Culture', 'Sport', 'Industry', 'Emergency services'],
  Infrastructure: ['Road', 'Railway', 'Bridge', 'Tunnel', 'Harbour', 'Water', 'Energy'],
  Other: ['Landscape', 'Refurbishment', 'Research', 'Other'],
} as const;

const Kind = Line(60);
const TimeZone = Type.String({ pattern: '^[A-Za-z]+(?:/[A-Za-z0-9_+-]+)*$', maxLength: 60 });

export const UNITS = ['metric', 'feet and inches'] as const;
export const INCH_FRACTIONS = [1, 2, 4, 8, 16, 32, 64] as const;

const number = (minimum: number, maximum: number) => Nullable(Type.Number({ minimum, maximum }));
/** What a project may tell of itself beside name and kind; all of it can come later. */
const Details = {
  number: OptionalLine(30),
  address: OptionalLine(300),
  latitude: number(-90, 90),
  longitude: number(-180, 180),
  timeZone: TimeZone,
  /** Days that are not worked, beside weekends. */
  holidays: Type.Array(Day(), { maxItems: 400, uniqueItems: true }),
  startsOn: Nullable(Day()),
  finishesOn: Nullable(Day()),
  value: number(0, 1e15),
  currency: Type.String({ pattern: '^[A-Z]{3}$' }),
  units: OneOf(UNITS),
  inchFraction: Type.Integer({ enum: [...INCH_FRACTIONS] }),
  calloutNumbering: OneOf(CALLOUT_NUMBERING),
  calloutTag: OneOf(CALLOUT_TAGS),
  /** Survey coordinates of the project's origin, metres. */
  easting: number(-1e8, 1e8),
  northing: number(-1e8, 1e8),
  height: number(-12_000, 12_000),
  /** Degrees that true north lies clockwise of project north. */
  trueNorth: number(-180, 180),
};
const OptionalDetails = Object.fromEntries(
  Object.entries(Details).map(([name, schema]) => [name, Type.Optional(schema)]),
) as { [K in keyof typeof Details]: TOptional<(typeof Details)[K]> };

export const Project = Type.Object({
  id: Id(),
  name: Type.String(),
  kind: Type.String(),
  ...Details,
  edition: Edition(),
  createdAt: Moment(),
});
export type Project = Static<typeof Project>;

/** How much of each kind of thing waits for you. */
const Waiting = Type.Record(Type.String(), Type.Integer());

export const ProjectCard = Type.Composite([
  Project,
  Type.Object({
    people: Type.Integer(),
    /** Who is in it right now. */
    present: Type.Array(Type.Pick(Person, ['id', 'name', 'initials', 'colour'])),
    nextDate: Nullable(Type.Object({ day: Day(), what: Type.String() })),
    waiting: Type.Integer(),
  }),
]);
export type ProjectCard = Static<typeof ProjectCard>;

export const listProjects = operation('listProjects', {
  method: 'get',
  path: '/projects',
  summary: 'The projects that you are a member of',
  access: 'signed in',
  response: Type.Array(ProjectCard),
});

export const createProject = operation('createProject', {
  costly: true,
  method: 'post',
  path: '/projects',
  summary: 'Create a project from a template; you become its administrator',
  access: 'signed in',
  body: Type.Object(
    {
      name: Line(120),
      kind: Kind,
      ...OptionalDetails,
      templateId: Type.Optional(TemplateRef()),
    },
    { additionalProperties: false },
  ),
  response: Project,
});

export const showProject = operation('showProject', {
  method: 'get',
  path: '/projects/:projectId',
  summary: 'A project, what you may do in it and what waits for you at each stage',
  access: 'member',
  response: Type.Object({
    project: Project,
    me: Type.Object({
      administrator: Type.Boolean(),
      grid: Grid,
      teamId: Nullable(Id()),
      workAreas: Nullable(Type.Array(OneOf(WORK_AREAS))),
    }),
    waiting: Waiting,
  }),
});
export type ProjectView = Static<typeof showProject.response>;

export const changeProject = operation('changeProject', {
  method: 'patch',
  path: '/projects/:projectId',
  summary: 'Change the details of a project',
  access: { kind: 'project', action: 'change' },
  body: Type.Object(
    {
      edition: Edition(),
      name: Type.Optional(Line(120)),
      kind: Type.Optional(Kind),
      ...OptionalDetails,
    },
    { additionalProperties: false },
  ),
  response: Project,
});
