/** What must hold of a register whatever happened to the server: looked up in its database and its files. */
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import type pg from 'pg';
import { expect } from 'vitest';

export async function expectWhole(database: pg.Client, files: string): Promise<{ versions: number }> {
  const rows = async <T>(sql: string): Promise<T[]> => (await database.query(sql)).rows as T[];

  // Numbers have no gaps and no twins, and each container knows its last.
  expect(
    await rows(`select c.code, c.last_number, count(v.*)::int as versions, max(v.number) as most from containers c
      left join versions v on v.container_id = c.id group by c.id having count(v.*) <> c.last_number or max(v.number) <> c.last_number`),
  ).toEqual([]);

  // Every version has the whole of its file.
  const versions = await rows<{ sha256: string; size: string }>('select distinct sha256, size from versions');
  for (const { sha256, size } of versions) {
    const bytes = fs.readFileSync(path.join(files, 'blobs', sha256.slice(0, 2), sha256));
    expect(bytes.length).toBe(Number(size));
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(sha256);
  }

  // Every version came by one event, and every such event has its version.
  expect(
    await rows(`select c.code from containers c where
      (select count(*) from versions v where v.container_id = c.id) <>
      (select count(*) from events e where e.subject_id = c.id::text and e.subject_type = 'container'
         and (e.verb in ('delivered', 'delivered in conflict', 'made current again') ))`),
  ).toEqual([]);

  // The state of each version is what its last change of state says.
  expect(
    await rows(`select c.code, v.number, v.state, last.state as said from versions v join containers c on c.id = v.container_id
      join lateral (select e.after ->> 'state' as state from events e where e.subject_type = 'container' and e.subject_id = c.id::text
        and e.after ? 'state' and (e.after ->> 'version')::int = v.number order by e.id desc limit 1) last on true
      where v.state <> last.state`),
  ).toEqual([]);

  // What the register shows is what its versions say.
  expect(
    await rows(`select c.code from containers c
      left join entries e on e.container_id = c.id and e.audience <> 'others'
      left join lateral (select * from versions v where v.container_id = c.id and v.sequence = 'in sequence' order by v.number desc limit 1) v on true
      where e.version_id is distinct from v.id or e.state is distinct from v.state or e.revision is distinct from v.revision or e.title is distinct from v.title`),
  ).toEqual([]);

  // No delivery without a version, no upload that was delivered and is there still.
  expect(
    await rows('select d.id from deliveries d where not exists (select 1 from versions v where v.delivery_id = d.id)'),
  ).toEqual([]);
  const [{ n }] = (await rows<{ n: number }>('select count(*)::int n from versions')) as [{ n: number }];
  return { versions: n };
}
