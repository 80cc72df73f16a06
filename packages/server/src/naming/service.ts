import type { Convention } from '@kindred/core/naming/convention';
import { conventionProblems } from '@kindred/core/naming/convention-problems';
import type { Code, Convention as ConventionView, Naming } from '@kindred/contract/naming/naming';
import type { RevisionScheme } from '@kindred/core/register/revision';
import { conventionProblem } from '@kindred/words/naming';
import { and, asc, desc, eq } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import { isUniqueViolation, type Db } from '../platform/database.ts';
import { conflict, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { conventionEditions, conventions, namingSchemes } from './schema.ts';

type Row = typeof conventions.$inferSelect;
/** Refuses a status that the project does not know; a project that knows none takes any. */
export async function requireStatuses(
  db: Db,
  projectId: string,
  wanted: readonly (string | undefined)[],
): Promise<void> {
  const named = wanted.filter(Boolean) as string[];
  if (!named.length) return;
  const [row] = await db
    .select({ statuses: namingSchemes.statuses })
    .from(namingSchemes)
    .where(eq(namingSchemes.projectId, projectId));
  const known = new Set(row?.statuses.map(({ code }) => code));
  const unknown = known.size ? named.find((code) => !known.has(code)) : undefined;
  if (unknown !== undefined)
    throw refused(
      'unknown-status',
      `“${unknown}” is no status of this project. It knows ${[...known].join(', ')}. Nothing was changed.`,
    );
}

const toConvention = ({ id, definition, isDefault, edition }: Row): ConventionView => ({
  id,
  definition,
  isDefault,
  edition,
});

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

export async function showNaming(db: Db, projectId: string): Promise<Naming> {
  const rows = await db
    .select()
    .from(conventions)
    .where(eq(conventions.projectId, projectId))
    .orderBy(desc(conventions.isDefault), asc(conventions.id));
  const schemes = requireRow(
    await db.select().from(namingSchemes).where(eq(namingSchemes.projectId, projectId)),
    'codes',
  );
  const { statuses, revisions, classifications, edition } = schemes;
  return { conventions: rows.map(toConvention), statuses, revisions, classifications, schemesEdition: edition };
}

/** The convention with this id, or the project's own where none is named. */
export async function conventionOf(db: Db, projectId: string, conventionId: string | null): Promise<Row> {
  const which = conventionId ? eq(conventions.id, conventionId) : eq(conventions.isDefault, true);
  return requireRow(
    await db
      .select()
      .from(conventions)
      .where(and(eq(conventions.projectId, projectId), which)),
    'naming convention',
  );
}

export function requireSound(definition: Convention): void {
  const problems = conventionProblems(definition);
  if (!problems.length) return;
  const fields = problems.map((problem) => ({ path: problem.path, message: conventionProblem(problem) }));
  throw refused('convention-unsound', `${fields[0]!.message} Nothing was changed.`, fields);
}

/** Says in words that two conventions would have one name. */
async function withNameFree<T>(name: string, run: () => Promise<T>): Promise<T> {
  try {
    return await run();
  } catch (error) {
    if (isUniqueViolation(error))
      throw refused('convention-exists', `There is already a convention “${name}”. Nothing was changed.`);
    throw error;
  }
}

export async function addConvention(
  platform: Platform,
  actor: Member,
  definition: Convention,
): Promise<ConventionView> {
  const { projectId } = actor;
  requireSound(definition);
  return withNameFree(definition.name, () =>
    change(platform, actor, async ({ db, record }) => {
      const [row] = await db.insert(conventions).values({ projectId, definition }).returning();
      await db
        .insert(conventionEditions)
        .values({ conventionId: row!.id, edition: 1, definition, authorId: actor.id, at: now() });
      await record({
        projectId,
        verb: 'added',
        subjectType: 'convention',
        subjectId: row!.id,
        after: { name: definition.name },
      });
      return toConvention(row!);
    }),
  );
}

export async function deleteConvention(db: Db, conventionId: string): Promise<void> {
  await db.delete(conventions).where(eq(conventions.id, conventionId));
}

/** Writes a new edition; the caller has locked the row. */
async function writeEdition(db: Db, actor: Member, row: Row, definition: Convention, reason: string): Promise<Row> {
  const edition = row.edition + 1;
  const [after] = await db
    .update(conventions)
    .set({ definition, edition })
    .where(eq(conventions.id, row.id))
    .returning();
  await db
    .insert(conventionEditions)
    .values({ conventionId: row.id, edition, definition, reason, authorId: actor.id, at: now() });
  return after!;
}

export async function lockConvention(db: Db, projectId: string, conventionId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(conventions)
      .where(and(eq(conventions.projectId, projectId), eq(conventions.id, conventionId)))
      .for('update'),
    'naming convention',
  );
}

export async function changeConvention(
  platform: Platform,
  actor: Member,
  conventionId: string,
  wanted: { edition: number; definition: Convention; reason?: string; isDefault?: boolean },
  /** What else has to happen in the same transaction. */
  also: (db: Db) => Promise<void>,
): Promise<ConventionView> {
  const { projectId } = actor;
  requireSound(wanted.definition);
  return withNameFree(wanted.definition.name, () =>
    change(platform, actor, async ({ db, record }) => {
      const row = await lockConvention(db, projectId, conventionId);
      if (row.edition !== wanted.edition)
        throw conflict(
          `Someone else made edition ${row.edition} of “${row.definition.name}” meanwhile. Your changes are still in the editor; look at theirs first. Nothing was changed.`,
        );
      const after = await writeEdition(db, actor, row, wanted.definition, wanted.reason ?? '');
      if (wanted.isDefault && !row.isDefault) {
        await db
          .update(conventions)
          .set({ isDefault: false })
          .where(and(eq(conventions.projectId, projectId), eq(conventions.isDefault, true)));
        await db.update(conventions).set({ isDefault: true }).where(eq(conventions.id, row.id));
        after.isDefault = true;
      }
      await record({
        projectId,
        verb: 'edition made',
        subjectType: 'convention',
        subjectId: row.id,
        before: { edition: row.edition },
        after: { edition: after.edition, reason: wanted.reason ?? '' },
      });
      await also(db);
      return toConvention(after);
    }),
  );
}

export async function listConventionEditions(db: Db, projectId: string, conventionId: string) {
  await conventionOf(db, projectId, conventionId);
  const rows = await db
    .select()
    .from(conventionEditions)
    .where(eq(conventionEditions.conventionId, conventionId))
    .orderBy(desc(conventionEditions.edition));
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map(({ edition, definition, reason, authorId, at }) => ({
    edition,
    definition,
    reason,
    author: (authorId && persons.get(authorId)) || null,
    at: at.toISOString(),
  }));
}

export async function addNamingValue(
  platform: Platform,
  actor: Member,
  conventionId: string,
  value: { field: string; code: string; meaning: string },
): Promise<ConventionView> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record }) => {
    const row = await lockConvention(db, projectId, conventionId);
    const { definition } = row;
    const field = definition.fields.find(({ name }) => name === value.field);
    if (!field) throw refused('unknown-field', `The convention has no field “${value.field}”.`);
    if (field.kind !== 'list')
      throw refused('not-a-list', `“${field.name}” is a ${field.kind}; it has no list of values.`);
    if (field.values.some(({ code }) => code === value.code))
      throw refused('value-exists', `“${value.code}” is already allowed in “${field.name}”.`);
    const { code, meaning } = value;
    const grown = { ...field, values: [...field.values, { code, meaning }] };
    const after = { ...definition, fields: definition.fields.map((one) => (one === field ? grown : one)) };
    requireSound(after);
    const written = await writeEdition(db, actor, row, after, `${code} added to ${field.name}`);
    await record({ projectId, verb: 'value added', subjectType: 'convention', subjectId: row.id, after: value });
    return toConvention(written);
  });
}

export async function changeSchemes(
  platform: Platform,
  actor: Member,
  { edition, ...wanted }: { edition: number; statuses?: Code[]; revisions?: RevisionScheme; classifications?: Code[] },
): Promise<Naming> {
  const { projectId } = actor;
  for (const codes of [wanted.statuses, wanted.classifications]) {
    const twice = codes?.find(({ code }, i) => codes.findIndex((other) => other.code === code) !== i);
    if (twice) throw refused('code-twice', `“${twice.code}” is there twice. Nothing was changed.`);
  }
  await change(platform, actor, async ({ db, record }) => {
    const [row] = await db
      .update(namingSchemes)
      .set({ ...wanted, edition: edition + 1 })
      .where(and(eq(namingSchemes.projectId, projectId), eq(namingSchemes.edition, edition)))
      .returning();
    if (!row)
      throw conflict(
        'Someone else changed these codes meanwhile. Look at theirs, then change them again. Nothing was changed.',
      );
    await record({
      projectId,
      verb: 'codes changed',
      subjectType: 'convention',
      subjectId: projectId,
      after: Object.keys(wanted),
    });
  });
  return showNaming(platform.db, projectId);
}
