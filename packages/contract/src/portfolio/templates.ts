import { Type, type Static } from '@sinclair/typebox';
import { LEVELS } from '@kindred/core/register/folder-rights';
import { Code, Definition, Revisions } from '../naming/naming.ts';
import { IssueSettings } from '../issues/settings.ts';
import { Grid } from '../platform/rights.ts';
import { Id, Line, Moment, Nothing, OneOf, operation, Prose } from '../platform/operation.ts';

/** What a template may carry, each part for itself. */
export const TEMPLATE_PARTS = [
  'roles',
  'teams',
  'folders',
  'permissions',
  'conventions',
  'schemes',
  'routes',
  'issues',
] as const;
export type TemplatePart = (typeof TEMPLATE_PARTS)[number];

/** Things refer to each other by name: a template knows no ids of any project. */
export const TemplateContent = Type.Object({
  roles: Type.Array(Type.Object({ name: Type.String(), grid: Grid })),
  teams: Type.Array(
    Type.Object({ name: Type.String(), discipline: Type.String(), colour: Type.String(), home: Type.String() }),
  ),
  /** Paths from the root; a folder stands after the one that it lies in. */
  folders: Type.Array(
    Type.Object({
      path: Type.Array(Type.String()),
      team: Type.String(),
      convention: Type.String(),
      permissions: Type.Array(
        Type.Object({ subject: OneOf(['role', 'team'] as const), name: Type.String(), level: OneOf(LEVELS) }),
      ),
    }),
  ),
  /** The first is the project's own; `{project}` among its codes stands for the code of the new project. */
  conventions: Type.Array(Definition),
  schemes: Type.Object({
    statuses: Type.Array(Code),
    revisions: Revisions,
    classifications: Type.Array(Code),
  }),
  routes: Type.Array(
    Type.Object({
      name: Type.String(),
      steps: Type.Array(Type.Object({ name: Type.String(), days: Type.Integer(), role: Type.String() })),
    }),
  ),
  /** Types, priorities and labels of issues; absent in templates that were saved before there were any. */
  issues: Type.Optional(IssueSettings),
  returnCodes: Type.Array(
    Type.Object({ code: Type.String(), meaning: Type.String(), rules: Type.Record(Type.String(), Type.Boolean()) }),
  ),
});
export type TemplateContent = Static<typeof TemplateContent>;

export const Template = Type.Object({
  /** A starter template has a word, a saved one an id. */
  id: Type.String(),
  name: Type.String(),
  description: Type.String(),
  starter: Type.Boolean(),
  mine: Type.Boolean(),
  forAll: Type.Boolean(),
  /** “5 roles”, “9 folders”: what it brings. */
  carries: Type.Array(Type.String()),
  createdAt: Type.Union([Moment(), Type.Null()]),
});
export type Template = Static<typeof Template>;

export const TemplateRef = () => Type.String({ pattern: '^[a-z]+$|^[0-9a-f-]{36}$', maxLength: 40 });

export const listTemplates = operation('listTemplates', {
  method: 'get',
  path: '/templates',
  summary: 'Templates that you may start a project from: the starters, yours, and those offered to everybody',
  access: 'signed in',
  response: Type.Array(Template),
});

export const saveTemplate = operation('saveTemplate', {
  costly: true,
  method: 'post',
  path: '/projects/:projectId/templates',
  summary: 'Save the set-up of this project as a template; choose what it carries',
  access: 'administrator',
  body: Type.Object(
    {
      name: Line(80),
      description: Type.Optional(Prose(400)),
      parts: Type.Array(OneOf(TEMPLATE_PARTS), { minItems: 1, maxItems: TEMPLATE_PARTS.length, uniqueItems: true }),
      forAll: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Template,
});

export const removeTemplate = operation('removeTemplate', {
  method: 'delete',
  path: '/templates/:templateId',
  summary: 'Remove a template of your own; projects that were started from it stay as they are',
  access: 'signed in',
  params: Type.Object({ templateId: Id() }),
  response: Nothing,
});
