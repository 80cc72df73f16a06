/** Pictures of federations, as everybody knows them: drawn anew whenever other models take part or lie elsewhere. */
import type { FederationPicture } from '@kindred/contract/federation/federations';
import { allows } from '@kindred/core/people/rights';
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import type { Actor, Member } from '../platform/caller.ts';
import type { Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { ProblemError, requireRow } from '../platform/errors.ts';
import type { JobKind } from '../platform/jobs.ts';
import type { Platform } from '../platform/services.ts';
import { keptModel, type KeptModel } from '../preparation/kept-models.ts';
import type { DrawnModels } from '../preparation/draw-models.ts';
import { openPreparation, type OpenPreparation } from '../preparation/once.ts';
import { seesVersion } from '../register/visibility.ts';
import { federationPictures, federations } from './schema.ts';
import { DRAW, federationsWith, sharedModelsOf } from './service.ts';

export async function drawFederationsWith(unit: Change, containerIds: readonly string[]): Promise<void> {
  const ids = new Set<string>();
  for (const id of new Set(containerIds))
    for (const federation of await federationsWith(unit, id)) ids.add(federation.id);
  for (const id of ids) await unit.enqueue(DRAW, { federationId: id });
}

export function pictureJobs(platform: Platform): { kinds: JobKind[]; interrupt: () => void } {
  let open: OpenPreparation | undefined;
  const job: JobKind<{ federationId: string }> = {
    queue: DRAW,
    parallel: 1,
    async run({ federationId }) {
      open = openPreparation(platform);
      try {
        await draw(platform, open, federationId);
      } finally {
        open.end();
        open = undefined;
      }
    },
  };
  return { kinds: [job] as JobKind[], interrupt: () => open?.interrupt() };
}

async function draw(platform: Platform, { ask }: OpenPreparation, federationId: string): Promise<void> {
  const { db, store, live } = platform;
  const [federation] = await db.select().from(federations).where(eq(federations.id, federationId));
  if (!federation) return;
  const shared = await sharedModelsOf(db, federation);
  const content = createHash('sha256')
    .update(JSON.stringify(shared.map(({ versionId, placing }) => [versionId, placing])))
    .digest('hex');
  const [known] = await db.select().from(federationPictures).where(eq(federationPictures.federationId, federationId));
  if (known?.content === content) return;
  const models: KeptModel[] = [];
  for (const { versionId } of shared) {
    const model = await keptModel(db, versionId);
    if (model) models.push(model);
  }
  const placings = shared.map(({ placing }) => placing);
  const { png } =
    models.length === shared.length ? await drawn(() => ask(models, { picture: placings }, 'not-drawn')) : NONE;
  const versionIds = shared.map(({ versionId }) => versionId);
  const sha256 = png && (await store.putBytes(Buffer.from(png, 'base64'))).sha256;
  const values = { federationId, content, versionIds, sha256, at: now() };
  await db
    .insert(federationPictures)
    .values(values)
    .onConflictDoUpdate({ target: federationPictures.federationId, set: values });
  live.announce({ projectId: federation.projectId, subjectType: 'federation' });
}

const NONE: DrawnModels = { png: null };
/** What cannot be drawn has no picture. */
async function drawn(ask: () => Promise<DrawnModels>): Promise<DrawnModels> {
  try {
    return await ask();
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return NONE;
  }
}

/** Over pictures: whether the member sees every model that is in it. */
const seesAll = (member: Member) =>
  sql<boolean>`not exists (select 1 from unnest(${federationPictures.versionIds}) used(id) where not ${seesVersion(member, sql`used.id`)})`;

export async function listFederationPictures({ db, gate }: Platform, actor: Actor): Promise<FederationPicture[]> {
  const found: FederationPicture[] = [];
  for (const member of await gate.members([actor.id])) {
    if (!allows(member.standing, { kind: 'scene', action: 'see' })) continue;
    for (const { federation, picture } of await picturesFor(db, member)) {
      const { projectId, id: federationId, name } = federation;
      found.push({ projectId, federationId, name, picture: picture.sha256! });
    }
  }
  return found;
}

const picturesFor = (db: Db, member: Member, federationId?: string) =>
  db
    .select({ federation: federations, picture: federationPictures })
    .from(federationPictures)
    .innerJoin(federations, eq(federations.id, federationPictures.federationId))
    .where(
      and(
        eq(federations.projectId, member.projectId),
        federationId ? eq(federations.id, federationId) : undefined,
        sql`${federationPictures.sha256} is not null`,
        seesAll(member),
      ),
    )
    .orderBy(desc(sql`cardinality(${federationPictures.versionIds})`), asc(federations.name));

/** Its hash. */
export async function pictureOf({ db }: Platform, actor: Member, federationId: string): Promise<string> {
  return requireRow(await picturesFor(db, actor, federationId), 'picture').picture.sha256!;
}
