import { checkName, type Convention, type NameVerdict } from '@kindred/core/naming/convention';
import { eq } from 'drizzle-orm';
import type { Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { found, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { conventions } from './schema.ts';
import { STARTER_CLASSIFICATIONS, STARTER_STATUSES, starterConvention } from './starter.ts';

/** Letters and digits of the number or the name, as the code that names begin with. */
export function projectCode(number: string, name: string): string {
  const fromNumber = number.toUpperCase().replace(/[^A-Z0-9]/g, '');
  if (fromNumber.length >= 2 && fromNumber.length <= 6) return fromNumber;
  const initials = name
    .toUpperCase()
    .replace(/[^A-Z0-9 ]/g, '')
    .split(/\s+/)
    .filter(Boolean);
  const code =
    initials.length >= 3
      ? initials
          .map((word) => word[0])
          .join('')
          .slice(0, 4)
      : initials.join('').slice(0, 3);
  return code.padEnd(2, 'X');
}

export async function foundNaming(db: Db, projectId: string, code: string): Promise<void> {
  await db.insert(conventions).values({
    projectId,
    definition: starterConvention(code),
    statuses: STARTER_STATUSES,
    classifications: STARTER_CLASSIFICATIONS,
  });
}

export async function showNaming(db: Db, projectId: string) {
  const row = found(
    await db.select().from(conventions).where(eq(conventions.projectId, projectId)),
    'naming convention',
  );
  return { id: row.id, convention: row.definition, statuses: row.statuses, classifications: row.classifications };
}

export async function judgeName(db: Db, projectId: string, name: string): Promise<NameVerdict> {
  return checkName((await showNaming(db, projectId)).convention, name);
}

export async function addNamingValue(
  platform: Platform,
  actor: Member,
  value: { field: string; code: string; meaning: string },
): Promise<Convention> {
  const { projectId } = actor;
  return change(platform, actor.id, async ({ db, record }) => {
    const row = found(
      await db.select().from(conventions).where(eq(conventions.projectId, projectId)).for('update'),
      'naming convention',
    );
    const { definition } = row;
    const fields = definition.fields.map((field) => {
      if (field.name !== value.field) return field;
      if (field.kind === 'number')
        throw refused('not-a-list', `“${field.name}” is a number and takes every number of ${field.length} digits.`);
      const values = field.kind === 'list' ? field.values : [];
      if (values.some(({ code }) => code === value.code))
        throw refused('value-exists', `“${value.code}” is already allowed in “${field.name}”.`);
      if (value.code.includes(definition.separator))
        throw refused('separator-inside', `A value may not hold the separator “${definition.separator}”.`);
      if (field.kind === 'pattern')
        throw refused('not-a-list', `“${field.name}” follows a pattern (${field.pattern}); it has no list of values.`);
      return { ...field, values: [...values, { code: value.code, meaning: value.meaning }] };
    });
    if (fields.every((field, i) => field === definition.fields[i]))
      throw refused('unknown-field', `The convention has no field “${value.field}”.`);
    const after = { ...definition, fields };
    await db
      .update(conventions)
      .set({ definition: after, edition: row.edition + 1 })
      .where(eq(conventions.id, row.id));
    await record({ projectId, verb: 'value added', subjectType: 'convention', subjectId: row.id, after: value });
    return after;
  });
}
