/** Models that do not lie as they were delivered: put to the others by hand, for everyone. */
import { Type, type Static } from '@sinclair/typebox';
import { Nullable, operation } from '../platform/operation.ts';
import { Point } from './point.ts';

const strict = { additionalProperties: false } as const;

/** Turned about the vertical through its origin (degrees counter-clockwise), then shifted (metres). */
export const Placing = Type.Object({ turn: Type.Number(), shift: Point }, strict);
export type Placing = Static<typeof Placing>;

export const showPlacing = operation('showPlacing', {
  method: 'get',
  path: '/projects/:projectId/versions/:versionId/placing',
  summary: 'How a model is put before it is shown; null where it lies as it was delivered',
  access: { kind: 'scene', action: 'see' },
  response: Type.Object({ placing: Nullable(Placing) }),
});
const Shift = Type.Number({ minimum: -1e8, maximum: 1e8 });
export const placeModel = operation('placeModel', {
  method: 'put',
  path: '/projects/:projectId/containers/:containerId/placing',
  summary: 'Put a model to the others in all scenes, plans and clashes; null: as it was delivered',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object(
    {
      placing: Nullable(
        Type.Object(
          { turn: Type.Number({ minimum: -360, maximum: 360 }), shift: Type.Tuple([Shift, Shift, Shift]) },
          strict,
        ),
      ),
    },
    strict,
  ),
});
