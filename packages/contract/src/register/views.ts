import { Type, type Static } from '@sinclair/typebox';
import { Edition, Id, Line, OneOf, operation } from '../platform/operation.ts';

/** Lists that somebody may look at in ways of their own. */
export const VIEWED_LISTS = ['register', 'issues'] as const;
export type ViewedList = (typeof VIEWED_LISTS)[number];

/** How somebody looks at a list: the filters as they stand in the address, columns in their order, what it is grouped by. */
export const SavedViewDefinition = Type.Object(
  {
    filters: Type.Record(Type.String({ maxLength: 40 }), Type.String({ maxLength: 2000 })),
    columns: Type.Array(Type.String({ maxLength: 80 }), { maxItems: 40 }),
    groupBy: Type.String({ maxLength: 80 }),
  },
  { additionalProperties: false },
);
export type SavedViewDefinition = Static<typeof SavedViewDefinition>;

export const SavedView = Type.Object({
  id: Id(),
  name: Type.String(),
  forAll: Type.Boolean(),
  owner: Type.String(),
  mine: Type.Boolean(),
  /** The asker hears of what comes into it. */
  bell: Type.Boolean(),
  definition: SavedViewDefinition,
  edition: Type.Integer(),
});
export type SavedView = Static<typeof SavedView>;

const list = OneOf(VIEWED_LISTS);
export const listSavedViews = operation('listSavedViews', {
  method: 'get',
  path: '/projects/:projectId/saved-views',
  summary: 'Saved views of a list: those of the asker, and those offered to all',
  access: 'member',
  query: Type.Object({ list }, { additionalProperties: false }),
  response: Type.Array(SavedView),
});
const body = { name: Line(80), forAll: Type.Boolean(), definition: SavedViewDefinition };
export const addSavedView = operation('addSavedView', {
  method: 'post',
  path: '/projects/:projectId/saved-views',
  summary: 'Save a view of a list',
  access: 'member',
  body: Type.Object({ ...body, list }, { additionalProperties: false }),
  response: SavedView,
});
export const changeSavedView = operation('changeSavedView', {
  method: 'put',
  path: '/projects/:projectId/saved-views/:viewId',
  summary: 'Change a saved view of one’s own',
  access: 'member',
  body: Type.Object({ ...body, edition: Edition() }, { additionalProperties: false }),
  response: SavedView,
});
export const removeSavedView = operation('removeSavedView', {
  method: 'delete',
  path: '/projects/:projectId/saved-views/:viewId',
  summary: 'Remove a saved view of one’s own',
  access: 'member',
});
export const ringSavedView = operation('ringSavedView', {
  method: 'put',
  path: '/projects/:projectId/saved-views/:viewId/bell',
  summary: 'Hear, or hear no longer, of what comes into a saved view of issues',
  access: 'member',
  body: Type.Object({ on: Type.Boolean() }, { additionalProperties: false }),
});
