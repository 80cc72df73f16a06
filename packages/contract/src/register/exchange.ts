import { Type, type Static } from '@sinclair/typebox';
import { DELIVERY_SOURCES, USES } from '@kindred/core/register/states';
import { Day, Id, Moment, Nullable, OneOf, operation } from '../platform/operation.ts';

/** One arrival of files from a team, as the asker may see it. */
export const Delivery = Type.Object({
  id: Id(),
  teamId: Nullable(Id()),
  at: Moment(),
  by: Type.String(),
  source: OneOf(DELIVERY_SOURCES),
  files: Type.Integer(),
  /** Of these, still work in progress. */
  private: Type.Integer(),
  /** Code and title of the first few. */
  first: Type.Array(
    Type.Object({ containerId: Id(), code: Type.String(), title: Type.String(), version: Type.Integer() }),
  ),
});
export type Delivery = Static<typeof Delivery>;

export const listDeliveries = operation('listDeliveries', {
  method: 'get',
  path: '/projects/:projectId/deliveries',
  summary: 'Deliveries in a span of time, oldest first',
  access: { kind: 'register', action: 'see' },
  query: Type.Object({ from: Moment(), to: Moment() }, { additionalProperties: false }),
  response: Type.Array(Delivery),
});

/** What a team uses of another: how far behind it is. */
export const MatrixCell = Type.Object({
  provider: Id(),
  user: Id(),
  containers: Type.Integer(),
  /** Of these, not the newest that the user could have. */
  behind: Type.Integer(),
  /** Versions that the furthest is behind. */
  most: Type.Integer(),
});
export type MatrixCell = Static<typeof MatrixCell>;
export const showExchangeMatrix = operation('showExchangeMatrix', {
  method: 'get',
  path: '/projects/:projectId/exchange-matrix',
  summary: 'For each pair of teams, how far behind the user of the information is',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(MatrixCell),
});

export const Used = Type.Object({
  containerId: Id(),
  code: Type.String(),
  title: Type.String(),
  taken: Type.Integer(),
  newest: Type.Integer(),
  behind: Type.Integer(),
  how: OneOf(USES),
  by: Type.String(),
  at: Moment(),
});
export type Used = Static<typeof Used>;
export const listUsed = operation('listUsed', {
  method: 'get',
  path: '/projects/:projectId/exchange-matrix/:provider/:user',
  summary: 'What one team uses of another, the furthest behind first',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(Used),
});

/** Files delivered in one week by one team, and how many of their names did not conform when they arrived. */
export const DeliveryWeek = Type.Object({
  week: Day(),
  teamId: Nullable(Id()),
  files: Type.Integer(),
  misnamed: Type.Integer(),
});
export type DeliveryWeek = Static<typeof DeliveryWeek>;
export const listDeliveryWeeks = operation('listDeliveryWeeks', {
  method: 'get',
  path: '/projects/:projectId/delivery-weeks',
  summary: 'Files delivered per week and team, and how many names did not conform',
  access: { kind: 'register', action: 'see' },
  response: Type.Array(DeliveryWeek),
});
