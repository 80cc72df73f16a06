import { Type, type Static, type TOptional } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Grid } from '../people/people.ts';
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
  startsOn: Nullable(Day()),
  finishesOn: Nullable(Day()),
  value: number(0, 1e15),
  currency: Type.String({ pattern: '^[A-Z]{3}$' }),
  units: OneOf(UNITS),
  inchFraction: Type.Integer({ enum: [...INCH_FRACTIONS] }),
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

const Waiting = Type.Object({
  issues: Type.Integer(),
  reviews: Type.Integer(),
  transmittals: Type.Integer(),
  intake: Type.Integer(),
  contested: Type.Integer(),
});

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
      workAreas: Nullable(Type.Array(Type.String())),
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

export const Hit = Type.Object({
  type: Type.String(),
  id: Type.String(),
  title: Type.String(),
  subtitle: Type.String(),
  link: Type.String(),
});
export type Hit = Static<typeof Hit>;

export const jump = operation('jump', {
  method: 'get',
  path: '/projects/:projectId/jump',
  summary: 'Containers, sheets, issues and people whose words match',
  access: 'member',
  query: Type.Object({ q: Type.String({ minLength: 1, maxLength: 100 }) }, { additionalProperties: false }),
  response: Type.Array(Hit),
});

export const KIN_TYPES = ['container', 'issue', 'review', 'transmittal', 'markup', 'viewpoint'] as const;
export const kin = operation('kin', {
  method: 'get',
  path: '/projects/:projectId/kin',
  summary: 'Everything related to a thing, newest first',
  access: 'member',
  query: Type.Object({ type: Type.String({ enum: [...KIN_TYPES] }), id: Id() }, { additionalProperties: false }),
  response: Type.Object({
    title: Type.String(),
    items: Type.Array(Type.Composite([Hit, Type.Object({ at: Moment() })])),
  }),
});

export const Happening = Type.Object({
  id: Type.Integer(),
  at: Moment(),
  actor: Nullable(Person),
  verb: Type.String(),
  subjectType: Type.String(),
  subjectId: Type.String(),
  before: Type.Unknown(),
  after: Type.Unknown(),
});
export type Happening = Static<typeof Happening>;
export const listHistory = operation('listHistory', {
  method: 'get',
  path: '/projects/:projectId/history',
  summary: 'What happened to a thing, newest first',
  access: 'member',
  query: Type.Object({ type: Type.String({ enum: [...KIN_TYPES] }), id: Id() }, { additionalProperties: false }),
  response: Type.Array(Happening),
});
