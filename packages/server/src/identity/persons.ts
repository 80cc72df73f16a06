import type { Person } from '@kindred/contract/identity/identity';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { users } from './schema.ts';

/** Dark enough for white initials (AA), told apart by people with any kind of colour vision. */
const COLOURS = ['#1F6FB2', '#B4502D', '#14706A', '#6B3F69', '#8A5C0C', '#3F6188', '#7A4FA3', '#4D6B2F'];

const columns = {
  id: users.id,
  name: users.name,
  email: sql<string>`coalesce(${users.email}, '')`,
  initials: users.initials,
  colour: users.colour,
  guest: users.guest,
};

/** The people with these ids; asks for each once. */
export async function personsById(db: Db, ids: Iterable<string | null>): Promise<Map<string, Person>> {
  const wanted = [...new Set(ids)].filter((id) => id !== null);
  if (!wanted.length) return new Map();
  const rows = await db.select(columns).from(users).where(inArray(users.id, wanted));
  return new Map(rows.map((row) => [row.id, row]));
}

export function initialsOf(name: string): string {
  const words = name.trim().split(/\s+/);
  const letters = words.length > 1 ? words[0]![0]! + words.at(-1)![0]! : words[0]!.slice(0, 2);
  return letters.toUpperCase();
}

export interface NewPerson {
  name: string;
  /** Absent for a guest. */
  email?: string;
  passwordHash?: string;
  installationAdministrator?: boolean;
}

export async function insertPerson(db: Db, person: NewPerson): Promise<typeof users.$inferSelect> {
  const { rows } = await db.execute(sql`select count(*)::int as n from users`);
  const colour = COLOURS[Number((rows[0] as { n: number }).n) % COLOURS.length]!;
  const [row] = await db
    .insert(users)
    .values({
      ...person,
      email: person.email?.toLowerCase() ?? null,
      guest: person.email === undefined,
      initials: initialsOf(person.name),
      colour,
      createdAt: now(),
    })
    .returning();
  return row!;
}

/** The person with this address; `isNew` where nobody had it. */
export async function ensurePerson(db: Db, name: string, email: string): Promise<{ person: Person; isNew: boolean }> {
  const [known] = await db.select(columns).from(users).where(eq(users.email, email.toLowerCase()));
  if (known) return { person: known, isNew: false };
  const { id } = await insertPerson(db, { name, email });
  return { person: (await personsById(db, [id])).get(id)!, isNew: true };
}

/** Ids of those who were invited and have not yet chosen a password, nor come by the provider. */
export async function stillInvited(db: Db, ids: string[]): Promise<Set<string>> {
  if (!ids.length) return new Set();
  const rows = await db
    .select({ id: users.id })
    .from(users)
    .where(
      and(inArray(users.id, ids), eq(users.guest, false), isNull(users.passwordHash), isNull(users.providerSubject)),
    );
  return new Set(rows.map(({ id }) => id));
}
