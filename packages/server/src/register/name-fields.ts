import { sql } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';

/**
 * Reads the parts of all codes of a project anew, by the convention that holds in each folder now: what the register filters and
 * groups by when somebody filters by a part of the code. Writes only where something differs.
 */
export async function renewNameFields(db: Db, projectId: string): Promise<void> {
  await db.execute(sql`
    update containers c set fields = read.fields from (
      select held.id, coalesce((
          select jsonb_object_agg(field.value ->> 'name', part.value)
          from jsonb_array_elements(v.definition -> 'fields') with ordinality field(value, i)
          join unnest(held.parts) with ordinality part(value, i) using (i)
          where cardinality(held.parts) = jsonb_array_length(v.definition -> 'fields')), '{}') as fields
      from (
        select c.id, string_to_array(c.code, v.definition ->> 'separator') as parts, v.id as convention
        from containers c
        join folders f on f.id = c.folder_id
        left join lateral (select n.convention_id from folders n
          where n.project_id = f.project_id and n.convention_id is not null and n.first <= f.first and n.last >= f.first
          order by n.first desc limit 1) named on true
        join conventions v on v.project_id = c.project_id and v.id = coalesce(named.convention_id,
          (select d.id from conventions d where d.project_id = c.project_id and d.is_default))
        where c.project_id = ${projectId}
      ) held join conventions v on v.id = held.convention
    ) read where read.id = c.id and c.fields is distinct from read.fields`);
  await db.execute(sql`
    update entries e set fields = c.fields from containers c
    where c.id = e.container_id and c.project_id = ${projectId} and e.fields is distinct from c.fields`);
}
