import type { BcfTransfer } from '@kindred/contract/bcf/bcf';
import { and, eq } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { bcfTransfers } from './schema.ts';

export async function listBcfTransfers(
  { db }: Platform,
  actor: Member,
  asked: PageAsked,
): Promise<{ items: BcfTransfer[]; next: string | null }> {
  const { where, orderBy, limit } = pageOf(bcfTransfers.at, bcfTransfers.id, true, asked);
  const rows = await db
    .select()
    .from(bcfTransfers)
    .where(and(eq(bcfTransfers.projectId, actor.projectId), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.at, row.id]);
  const persons = await personsById(
    db,
    items.map(({ byId }) => byId),
  );
  return {
    items: items.map(({ projectId: _project, byId, at, notes, ...row }) => {
      void _project;
      return { ...row, by: persons.get(byId)!, at: at.toISOString(), notes: notes as BcfTransfer['notes'] };
    }),
    next,
  };
}
