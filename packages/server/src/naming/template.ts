/** Naming conventions, statuses, revisions and classifications of a template. */
import type { Convention } from '@kindred/core/naming/convention';
import { now } from '../platform/clock.ts';
import type { TemplatePart } from '../portfolio/parts.ts';
import { conventionEditions, conventions, namingSchemes } from './schema.ts';
import { projectCode, showNaming } from './service.ts';
import { PROJECT_CODE } from '../portfolio/starters/naming.ts';

export const namingTemplate: TemplatePart = {
  async add(db, project, { conventions: definitions, schemes }) {
    const { projectId, number, name, ids } = project;
    const code = projectCode(number, name);
    const rows = await db
      .insert(conventions)
      .values(
        definitions.map((definition, i) => ({
          projectId,
          definition: replaceProjectCode(definition, PROJECT_CODE, code),
          isDefault: i === 0,
        })),
      )
      .returning();
    await db.insert(conventionEditions).values(
      rows.map(({ id, definition }) => ({
        conventionId: id,
        edition: 1,
        definition,
        reason: 'From the template',
        at: now(),
      })),
    );
    await db.insert(namingSchemes).values({ projectId, ...schemes });
    ids.conventions = new Map(rows.map(({ id, definition }) => [definition.name, id]));
  },
  async read({ db }, { projectId }) {
    const naming = await showNaming(db, projectId);
    return {
      conventions: naming.conventions.map(({ definition }) => ({
        ...definition,
        fields: definition.fields.map((field) =>
          field.kind === 'list' && field.name === 'Project' && field.values.length === 1
            ? { ...field, values: [{ code: PROJECT_CODE, meaning: field.values[0]!.meaning }] }
            : field,
        ),
      })),
      schemes: { statuses: naming.statuses, revisions: naming.revisions, classifications: naming.classifications },
    };
  },
};

/** A template cannot know the code of the project that it will begin. */
function replaceProjectCode(definition: Convention, from: string, to: string): Convention {
  return {
    ...definition,
    fields: definition.fields.map((field) =>
      field.kind === 'list'
        ? {
            ...field,
            values: field.values.map((value) => (value.code === from ? { ...value, code: to } : value)),
          }
        : field,
    ),
  };
}
