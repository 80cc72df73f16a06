/** How much a project and the whole installation may hold: asked before an upload begins. */
import { ProblemError, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';

/** What is held is counted anew after so long; what this node admits meanwhile is added. */
const FRESH_MS = 30_000;
const PROJECT = `select (select coalesce(sum(size), 0) from versions where project_id = $1)
  + (select coalesce(sum(size), 0) from uploads where project_id = $1)
  + (select coalesce(sum(n.size), 0) from natives n join versions v on v.id = n.version_id where v.project_id = $1) as bytes`;
const INSTALLATION = `select (select coalesce(sum(size), 0) from blobs)
  + (select coalesce(sum(size), 0) from uploads where sha256 is null) as bytes`;

/** Bytes that the project holds, and that it may hold where that is bounded. */
export async function showRoom({ pool, config }: Platform, projectId: string) {
  const { rows } = await pool.query<{ bytes: string }>(PROJECT, [projectId]);
  return { held: Number(rows[0]!.bytes), most: config.quota.project || null };
}

export class Quota {
  private readonly held = new Map<string, { bytes: number; at: number }>();

  constructor(private readonly platform: Pick<Platform, 'pool' | 'config'>) {}

  /** Refuses what would not fit any more; `size` in bytes. */
  async admit(projectId: string, fileName: string, size: number): Promise<void> {
    const { project, installation } = this.platform.config.quota;
    if (!project && !installation) return;
    if (!Number.isFinite(size))
      throw refused('length-needed', `The length of “${fileName}” has to be said before it is uploaded here.`);
    const scopes = [
      { key: projectId, sql: PROJECT, values: [projectId], most: project, whose: 'This project' },
      { key: '', sql: INSTALLATION, values: [], most: installation, whose: 'This installation' },
    ].filter(({ most }) => most);
    for (const { key, sql, values, most, whose } of scopes) {
      const { bytes } = await this.count(key, sql, values);
      if (bytes + size > most)
        throw new ProblemError(
          507,
          'quota-reached',
          'No room for more',
          `${whose} holds ${inGigabytes(bytes)} of the ${inGigabytes(most)} that it may, and “${fileName}” has ${inGigabytes(size)}. Nothing was uploaded. Take away what nobody needs, or ask whoever administers the installation for more.`,
        );
    }
    for (const { key } of scopes) this.held.get(key)!.bytes += size;
  }

  private async count(key: string, sql: string, values: string[]): Promise<{ bytes: number }> {
    const known = this.held.get(key);
    if (known && Date.now() - known.at < FRESH_MS) return known;
    const { rows } = await this.platform.pool.query<{ bytes: string }>(sql, values);
    const counted = { bytes: Number(rows[0]!.bytes), at: Date.now() };
    this.held.set(key, counted);
    return counted;
  }
}

const inGigabytes = (bytes: number): string =>
  bytes < 2 ** 30 ? `${(bytes / 2 ** 20).toFixed(1)} MB` : `${(bytes / 2 ** 30).toFixed(1)} GB`;
