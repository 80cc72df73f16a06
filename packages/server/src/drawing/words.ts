/** Words on sheets, found in the whole project. */
import type { FoundSheet } from '@kindred/contract/drawing/drawing';
import { and, eq, ne, or, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import { wordsBeginning } from '../platform/like.ts';
import { planned } from '../platform/planned.ts';
import type { Platform } from '../platform/services.ts';
import { entries, sheets, versions } from '../register/schema.ts';
import { hasWords } from '../register/sheets.ts';
import { visibleTo } from '../register/visibility.ts';
import { getsEverySheet, inShareSet } from './service.ts';

/** Pages are asked for in two sizes: a limit that is written out is planned for, and few statements are kept planned. */
const MOST_USUAL = 100;
const HEADLINE = 'StartSel="",StopSel="",MaxWords=12,MinWords=4,MaxFragments=1';

export async function findWords(
  { db }: Platform,
  member: Member,
  { q, containerId, ...asked }: PageAsked & { q: string; containerId?: string },
): Promise<{ items: FoundSheet[]; next: string | null }> {
  const { where, orderBy, limit } = pageOf(entries.code, sheets.id, false, asked);
  const rows = await planned<FoundSheet>(
    db,
    sql`select ${sheets.id} as id, ${entries.containerId} as "containerId", ${entries.versionId} as "versionId", ${entries.code} as code,
        ${sheets.page} as page, ${sheets.label} as label,
        ts_headline('simple', ${sheets.text}, to_tsquery('simple', ${wordsBeginning(q)}), ${HEADLINE}) as around
      from ${sheets} join ${entries} on ${entries.versionId} = ${sheets.versionId}
      ${getsEverySheet(member) ? sql`` : sql`join ${versions} on ${versions.id} = ${sheets.versionId}`}
      where ${and(
        visibleTo(member),
        or(inShareSet(member), getsEverySheet(member) ? undefined : ne(versions.kind, 'drawing')),
        eq(entries.atIntake, false),
        hasWords(q),
        containerId ? eq(entries.containerId, containerId) : undefined,
        where,
      )}
      order by ${sql.join(orderBy, sql`, `)} limit ${sql.raw(limit > MOST_USUAL ? '201' : '101')}`,
  );
  return page(rows.slice(0, limit + 1), limit, ({ code, id }) => [code, id]);
}
