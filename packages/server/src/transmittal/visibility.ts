import { allows } from '@kindred/core/people/rights';
import { eq, or, sql, type SQL } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { receipts, transmittals } from './schema.ts';

/** Senders, recipients, and those who manage transmittals. */
export function transmittalVisibleTo(member: Member): SQL | undefined {
  if (allows(member.standing, { kind: 'transmittal', action: 'manage' })) return undefined;
  const received = sql`exists (select 1 from ${receipts} where ${receipts.transmittalId} = ${transmittals.id} and ${receipts.userId} = ${member.id})`;
  return or(eq(transmittals.senderId, member.id), received);
}
