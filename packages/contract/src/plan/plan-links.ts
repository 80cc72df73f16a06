import { Type, type Static } from '@sinclair/typebox';
import { Person } from '../identity/identity.ts';
import { Id, Line, Moment, Nullable, operation } from '../platform/operation.ts';

const Coordinate = Type.Number({ minimum: -1e8, maximum: 1e8 });
const Point = Type.Tuple([Coordinate, Coordinate]);
const Place = {
  /** The drawing, and the page of it that is a plan. */
  containerId: Id(),
  page: Type.Integer({ minimum: 1 }),
  /** The model, and the storey of it that the plan shows. */
  modelId: Id(),
  storey: Line(120),
  /** Of the storey, metres. */
  elevation: Coordinate,
  /** Elevation of the storey above; null where there is none. */
  top: Nullable(Coordinate),
  /** From points of the page to metres of the model, as `core/scene/plan-map` has it. */
  map: Type.Object({ a: Coordinate, b: Coordinate, c: Coordinate, d: Coordinate }, { additionalProperties: false }),
  /** How far the pairs, or the walls, that it was made from are off: metres. */
  error: Type.Number({ minimum: 0, maximum: 1e6 }),
  /** The points by which somebody linked it; none where it was taken from the walls. */
  pairs: Type.Array(Type.Object({ plan: Point, model: Point }, { additionalProperties: false }), { maxItems: 20 }),
};

/** A plan that is known to lie in a model. Holds for the versions of both that are current to whoever asks. */
export const PlanLink = Type.Object({
  ...Place,
  id: Id(),
  /** Current versions of the drawing and of the model. */
  versionId: Id(),
  modelVersionId: Id(),
  madeBy: Person,
  madeAt: Moment(),
});
export type PlanLink = Static<typeof PlanLink>;

export const listPlanLinks = operation('listPlanLinks', {
  method: 'get',
  path: '/projects/:projectId/plan-links',
  summary: 'Plans that are linked with a model, of the drawings and models that you see',
  access: { kind: 'scene', action: 'see' },
  query: Type.Object(
    { containerId: Type.Optional(Id()), modelId: Type.Optional(Id()) },
    { additionalProperties: false },
  ),
  response: Type.Array(PlanLink),
});
export const linkPlan = operation('linkPlan', {
  method: 'put',
  path: '/projects/:projectId/plan-links',
  summary: 'Link a page of a drawing with a storey of a model; a link that it had is replaced',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object(Place, { additionalProperties: false }),
  response: PlanLink,
});
export const unlinkPlan = operation('unlinkPlan', {
  method: 'delete',
  path: '/projects/:projectId/plan-links/:linkId',
  summary: 'Take the link of a plan with its model away',
  access: { kind: 'scene', action: 'add' },
});
