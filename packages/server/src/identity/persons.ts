import type { Person } from '@kindred/contract/identity/identity';
import { eq, inArray, sql } from 'drizzle-orm';
import { randomBytes } from 'node:crypto';
import { hashSecret } from '../platform/actor.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { users } from './schema.ts';

/** Dark enough for white initials (AA), told apart by people with any kind of colour vision. */
const COLOURS = ['#1F6FB2', '#B4502D', '#14706A', '#6B3F69', '#8A5C0C', '#3F6188', '#7A4FA3', '#4D6B2F'];

const columns = { id: users.id, name: users.name, email: users.email, initials: users.initials, colour: users.colour };

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
  email: string;
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
      email: person.email.toLowerCase(),
      initials: initialsOf(person.name),
      colour,
      createdAt: now(),
    })
    .returning();
  return row!;
}

/** The person with this address; someone new comes with the key of an invitation. */
export async function ensurePerson(
  db: Db,
  name: string,
  email: string,
): Promise<{ person: Person; invitationKey: string | null }> {
  const [known] = await db.select(columns).from(users).where(eq(users.email, email.toLowerCase()));
  if (known) return { person: known, invitationKey: null };
  const person = await insertPerson(db, { name, email });
  return { person, invitationKey: await giveKey(db, person.id) };
}

async function giveKey(db: Db, personId: string): Promise<string> {
  const key = randomBytes(24).toString('base64url');
  await db
    .update(users)
    .set({ invitationHash: hashSecret(key) })
    .where(eq(users.id, personId));
  return key;
}

/** A new key in place of the earlier one; null for somebody who has accepted already. */
export async function renewInvitation(db: Db, personId: string): Promise<string | null> {
  return (await stillInvited(db, [personId])).size ? giveKey(db, personId) : null;
}

/** Ids of those who were invited and have not yet chosen a password. */
export async function stillInvited(db: Db, ids: string[]): Promise<Set<string>> {
  if (!ids.length) return new Set();
  const rows = await db.select({ id: users.id, hash: users.invitationHash }).from(users).where(inArray(users.id, ids));
  return new Set(rows.filter(({ hash }) => hash !== null).map(({ id }) => id));
}
