import type pg from 'pg';

/** 100,000 containers with four versions each, as years of deliveries would leave them. */
export async function seed(
  pool: pg.Pool,
  {
    projectId,
    folderId,
    personId,
    teams,
  }: { projectId: string; folderId: string; personId: string; teams: { id: string }[] },
): Promise<void> {
  await pool.query(
    `insert into containers (project_id, folder_id, team_id, code, fields, last_number)
     select $1, $2, ($3::uuid[])[1 + n % cardinality($3::uuid[])], 'BEN-AAA-ZZ-00-D-A-' || lpad(n::text, 6, '0'),
            jsonb_build_object('Project', 'BEN', 'Originator', 'AAA', 'Form', (array['D', 'M', 'R'])[1 + n % 3], 'Discipline', 'A'), 4
     from generate_series(1, 100000) n`,
    [projectId, folderId, teams.map(({ id }) => id)],
  );
  await pool.query(
    `insert into versions (project_id, container_id, number, state, file_name, media_type, kind, size, sha256, title, status, revision, preparation, delivered_at, delivered_by)
     select $1, c.id, v, 'shared', c.code || '.pdf', 'application/pdf', (array['drawing', 'model', 'document'])[1 + abs(hashtext(c.code) % 3)], 1000 + v, md5(c.code || v) || md5(c.code || v),
            'Sheet ' || md5(c.code), 'S' || abs(hashtext(c.code)) % 7, 'P' || lpad((abs(hashtext(c.code)) % 5 + v)::text, 2, '0'), 'ready',
            now() - abs(hashtext(c.code)) % 1000000 * interval '1 minute' + v * interval '1 day', $2
     from containers c cross join generate_series(1, 4) v where c.project_id = $1`,
    [projectId, personId],
  );
  await pool.query(
    `insert into entries (container_id, audience, project_id, folder_id, team_id, code, fields, at_intake, conflicting, version_id, version_number, state, kind, file_name,
       title, status, revision, classification, description, preparation, preparation_note, sheets, size, delivered_at, delivered_by)
     select c.id, 'all', c.project_id, c.folder_id, c.team_id, c.code, c.fields, false, 0, v.id, v.number, v.state, v.kind, v.file_name,
       v.title, v.status, v.revision, v.classification, v.description, v.preparation, '', 0, v.size, v.delivered_at, v.delivered_by
     from containers c join versions v on v.container_id = c.id and v.number = 4 where c.project_id = $1`,
    [projectId],
  );
  await pool.query('vacuum analyze containers, versions, entries');
}
