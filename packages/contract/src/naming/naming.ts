import { Type, type Static } from '@sinclair/typebox';
import type { Convention as CoreConvention } from '@kindred/core/naming/convention';
import type { RevisionScheme } from '@kindred/core/register/revision';
import { Person } from '../identity/identity.ts';
import { Edition, Id, Line, Moment, Nullable, OneOf, operation, OptionalLine } from '../platform/operation.ts';

const Length = () => Type.Optional(Type.Integer());
const Field = Type.Object(
  {
    name: Type.String({ maxLength: 60 }),
    kind: Type.String(),
    values: Type.Optional(
      Type.Array(
        Type.Object(
          { code: Type.String({ maxLength: 60 }), meaning: Type.String({ maxLength: 200 }) },
          { additionalProperties: false },
        ),
        { maxItems: 2000 },
      ),
    ),
    length: Length(),
    pattern: Type.Optional(Type.String({ maxLength: 200 })),
    minLength: Length(),
    maxLength: Length(),
  },
  { additionalProperties: false },
);
/** What must hold beyond this shape, the core's `conventionProblems` says. */
export const Definition = Type.Unsafe<CoreConvention>(
  Type.Object(
    { name: Line(80), separator: Type.String({ maxLength: 3 }), fields: Type.Array(Field, { maxItems: 20 }) },
    { additionalProperties: false },
  ),
);
export const Code = Type.Object({ code: Line(20), meaning: OptionalLine(120) }, { additionalProperties: false });
export type Code = Static<typeof Code>;
export const Revisions = Type.Unsafe<RevisionScheme>(
  Type.Object(
    {
      name: Line(80),
      series: Type.Array(
        Type.Object(
          {
            prefix: Type.String({ pattern: '^[A-Za-z]{0,4}$' }),
            kind: OneOf(['numbers', 'letters'] as const),
            digits: Type.Integer({ minimum: 1, maximum: 6 }),
            minor: Type.Boolean(),
            meaning: OptionalLine(120),
          },
          { additionalProperties: false },
        ),
        { minItems: 1, maxItems: 10 },
      ),
    },
    { additionalProperties: false },
  ),
);

export const Convention = Type.Object({
  id: Id(),
  definition: Definition,
  /** Holds wherever no folder names another. */
  isDefault: Type.Boolean(),
  edition: Edition(),
});
export type Convention = Static<typeof Convention>;

export const showNaming = operation('showNaming', {
  method: 'get',
  path: '/projects/:projectId/naming',
  summary: 'The naming conventions of a project and its status, revision and classification codes',
  access: 'member',
  response: Type.Object({
    conventions: Type.Array(Convention),
    statuses: Type.Array(Code),
    revisions: Revisions,
    classifications: Type.Array(Code),
    schemesEdition: Edition(),
  }),
});
export type Naming = Static<typeof showNaming.response>;

export const addNamingValue = operation('addNamingValue', {
  method: 'post',
  path: '/projects/:projectId/conventions/:conventionId/values',
  summary: 'Add an allowed value to a list field; always safe for existing names',
  access: { kind: 'naming', action: 'change' },
  body: Type.Object({ field: Line(60), code: Line(60), meaning: OptionalLine(200) }, { additionalProperties: false }),
  response: Convention,
});

export const addConvention = operation('addConvention', {
  largestBody: 4_000_000,
  method: 'post',
  path: '/projects/:projectId/conventions',
  summary: 'Add a naming convention',
  access: { kind: 'naming', action: 'manage' },
  body: Type.Object({ definition: Definition }, { additionalProperties: false }),
  response: Convention,
});

export const changeConvention = operation('changeConvention', {
  largestBody: 4_000_000,
  costly: true,
  method: 'put',
  path: '/projects/:projectId/conventions/:conventionId',
  summary: 'Change a naming convention: it becomes a new edition, the old one is kept',
  access: { kind: 'naming', action: 'manage' },
  body: Type.Object(
    {
      edition: Edition(),
      definition: Definition,
      reason: Type.Optional(OptionalLine(300)),
      isDefault: Type.Optional(Type.Boolean()),
    },
    { additionalProperties: false },
  ),
  response: Convention,
});

export const removeConvention = operation('removeConvention', {
  method: 'delete',
  path: '/projects/:projectId/conventions/:conventionId',
  summary: 'Remove a naming convention that no folder uses',
  access: { kind: 'naming', action: 'manage' },
});

const NamedContainer = Type.Object({ containerId: Id(), code: Type.String() });
export const previewConvention = operation('previewConvention', {
  largestBody: 4_000_000,
  costly: true,
  method: 'post',
  path: '/projects/:projectId/conventions/:conventionId/effect',
  summary: 'Which existing names a change of the convention would stop, or make, conforming; changes nothing',
  access: { kind: 'naming', action: 'see' },
  body: Type.Object({ definition: Definition }, { additionalProperties: false }),
  response: Type.Object({
    names: Type.Integer(),
    stop: Type.Integer(),
    start: Type.Integer(),
    /** At most 200 of each. */
    stopping: Type.Array(NamedContainer),
    starting: Type.Array(NamedContainer),
  }),
});
export type ConventionEffect = Static<typeof previewConvention.response>;

export const listConventionEditions = operation('listConventionEditions', {
  method: 'get',
  path: '/projects/:projectId/conventions/:conventionId/editions',
  summary: 'All editions of a convention, newest first',
  access: 'member',
  response: Type.Array(
    Type.Object({
      edition: Type.Integer(),
      definition: Definition,
      reason: Type.String(),
      author: Nullable(Person),
      at: Moment(),
    }),
  ),
});

export const changeSchemes = operation('changeSchemes', {
  largestBody: 1_000_000,
  method: 'put',
  path: '/projects/:projectId/schemes',
  summary: 'Change the status, revision and classification codes of a project',
  access: { kind: 'naming', action: 'manage' },
  body: Type.Object(
    {
      edition: Edition(),
      statuses: Type.Optional(Type.Array(Code, { maxItems: 200 })),
      revisions: Type.Optional(Revisions),
      classifications: Type.Optional(Type.Array(Code, { maxItems: 2000 })),
    },
    { additionalProperties: false },
  ),
  response: showNaming.response,
});
