import { FILTER_TESTS } from '@kindred/core/scene/element-filter';
import { Type, type Static } from '@sinclair/typebox';
import { Id, Line, OneOf, operation } from '../platform/operation.ts';

const strict = { additionalProperties: false } as const;
export const Condition = Type.Object(
  {
    set: Type.String({ maxLength: 300 }),
    name: Type.String({ maxLength: 300 }),
    test: OneOf(FILTER_TESTS),
    value: Type.String({ maxLength: 500 }),
  },
  strict,
);
export const SharedFilter = Type.Object({
  id: Id(),
  name: Type.String(),
  owner: Type.String(),
  mine: Type.Boolean(),
  filter: Type.Object(
    { match: OneOf(['all', 'any'] as const), conditions: Type.Array(Condition, { minItems: 1, maxItems: 20 }) },
    strict,
  ),
});
export type SharedFilter = Static<typeof SharedFilter>;

export const listElementFilters = operation('listElementFilters', {
  method: 'get',
  path: '/projects/:projectId/element-filters',
  summary: 'Filters of elements that the project shares, by name',
  access: { kind: 'scene', action: 'see' },
  response: Type.Array(SharedFilter),
});
export const shareElementFilter = operation('shareElementFilter', {
  method: 'post',
  path: '/projects/:projectId/element-filters',
  summary: 'Share a filter of elements; one of the same name of your own is replaced',
  access: { kind: 'scene', action: 'add' },
  body: Type.Object({ name: Line(60), filter: SharedFilter.properties.filter }, strict),
  response: SharedFilter,
});
export const removeElementFilter = operation('removeElementFilter', {
  method: 'delete',
  path: '/projects/:projectId/element-filters/:filterId',
  summary: 'Remove a shared filter of your own, or any as an administrator',
  access: { kind: 'scene', action: 'add' },
});
