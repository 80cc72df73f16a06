/** Files that leave the register: one version, several as a zip, the list itself. */
import type { Response } from 'express';
import { pipeline } from 'node:stream/promises';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { ProblemError, refused, requireRow, unlessMissing } from '../platform/errors.ts';
import { sendBlob } from '../platform/send-blob.ts';
import type { Platform } from '../platform/services.ts';
import { zipFiles, type ZippedFile } from '../platform/zip.ts';
import { noteUse } from './exchange.ts';
import { nativesOf } from './natives.ts';
import { allVisible, productOf, visibleVersion, type VisibleVersion } from './versions.ts';
import { isOwnTeam } from './visibility.ts';

/** Whether the actor gets only what a share set chose of this version. */
export const isNarrowed = (actor: Member, version: VisibleVersion): boolean =>
  version.shareSetId !== null && version.kind === 'drawing' && !isOwnTeam(actor, version.container.teamId);

/** The content that the actor gets: the file, or the copy in which only the shared sheets are drawn. */
export async function contentFor(platform: Platform, actor: Member, version: VisibleVersion): Promise<string> {
  if (!isNarrowed(actor, version)) return version.sha256;
  const shared = await unlessMissing(productOf(platform.db, version.id, 'shared'), () => {
    throw new ProblemError(
      409,
      'share-copy-pending',
      'Not ready yet',
      `The sheets of “${version.container.code}” that are shared are being taken out. Try again in a moment.`,
    );
  });
  return shared.sha256;
}

export async function downloadVersion(
  platform: Platform,
  actor: Member,
  versionId: string,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  const sha256 = await contentFor(platform, actor, version);
  await noteUse(platform.db, actor, version, 'downloaded');
  response.attachment(version.fileName);
  if (sha256 === version.sha256) response.setHeader('Content-Length', version.size);
  await sendBlob(platform, response, sha256, version.mediaType);
}

export async function downloadNative(
  platform: Platform,
  actor: Member,
  versionId: string,
  nativeId: string,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  const known = (await nativesOf(platform.db, actor, [versionId])).get(versionId) ?? [];
  const native = requireRow(
    known.filter(({ id }) => id === nativeId),
    'file',
  );
  await noteUse(platform.db, actor, version, 'downloaded');
  response.attachment(native.fileName);
  response.setHeader('Content-Length', native.size);
  await sendBlob(platform, response, native.sha256, native.mediaType);
}

const PRODUCT_TYPES = {
  thumbnail: 'image/png',
  scene: 'application/octet-stream',
  elements: 'application/json',
  properties: 'application/octet-stream',
} as const;

export async function downloadProduct(
  platform: Platform,
  actor: Member,
  versionId: string,
  { product, part }: { product: keyof typeof PRODUCT_TYPES; part?: number },
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  const narrowed = product === 'thumbnail' && isNarrowed(actor, version);
  const name = narrowed ? 'shared-thumbnail' : part ? `${product}-${part}` : product;
  if (name === 'scene') await noteUse(platform.db, actor, version, 'opened');
  const { sha256, encoding } = await productOf(platform.db, version.id, name);
  await sendBlob(platform, response, sha256, PRODUCT_TYPES[product], encoding);
}

/** Several versions as one zip, in the order of their codes. */
export async function downloadVersions(
  platform: Platform,
  actor: Member,
  versionIds: string[],
  response: Response,
): Promise<void> {
  const versions = await allVisible(platform.db, actor, versionIds);
  if (new Set(versionIds).size !== versionIds.length)
    throw refused('version-twice', 'A version is chosen twice. Choose each once.');
  const natives = await nativesOf(platform.db, actor, versionIds);
  const files: ZippedFile[] = [];
  for (const version of versions.sort((a, b) => (a.container.code < b.container.code ? -1 : 1))) {
    await noteUse(platform.db, actor, version, 'downloaded');
    const { title, revision, status, number, fileName, size, container } = version;
    const sha256 = await contentFor(platform, actor, version);
    const about = { code: container.code, title, revision, status, versionNumber: number };
    files.push({ ...about, fileName, size, sha256 });
    for (const native of natives.get(version.id) ?? [])
      files.push({ ...about, fileName: native.fileName, size: native.size, sha256: native.sha256 });
  }
  await change(platform, actor, ({ record }) =>
    record({
      projectId: actor.projectId,
      verb: 'files downloaded',
      subjectType: 'project',
      subjectId: actor.projectId,
      after: { codes: [...new Set(files.map(({ code }) => code))] },
      personIds: [actor.id],
    }),
  );
  response.attachment(`Files ${new Date().toISOString().slice(0, 10)}.zip`);
  const heading = [`${files.length} files`, `for ${actor.name}`, new Date().toISOString()];
  await pipeline(
    zipFiles(platform.store, files, heading, (error) => response.destroy(error)),
    response,
  );
}
