import { lookUpCodes } from '@kindred/contract/register/register';
import { goesWith, takesAlong } from '@kindred/core/register/file-pair';
import { nextRevision, type RevisionScheme } from '@kindred/core/register/revision';
import { call } from '../platform/api.ts';
import type { Arrival } from './arrival.ts';

const PER_LOOK = 1000;

/** What the register knows of a code becomes the proposal for its next version, unless the person wrote something already. */
export async function propose(
  projectId: string,
  added: readonly Arrival[],
  revisions: () => RevisionScheme,
): Promise<void> {
  for (let i = 0; i < added.length; i += PER_LOOK) {
    const part = added.slice(i, i + PER_LOOK);
    const codes = part.map(({ code }) => code.trim()).filter(Boolean);
    const answer = await call(lookUpCodes, { params: { projectId }, body: { codes } });
    const known = new Map(answer.map((one) => [one.code, one]));
    for (const arrival of part) {
      const one = known.get(arrival.code.trim());
      if (!one) {
        Object.assign(arrival, { version: 1, onto: 0, goesWith: '', reservedBy: '' });
        continue;
      }
      const newest = { ...one, natives: one.natives.map(({ fileName }) => fileName) };
      const mayPair = !arrival.ownVersion && !one.reservedBy;
      const joins = mayPair && goesWith(newest, { fileName: arrival.fileName });
      const sameRevision = joins || (mayPair && takesAlong(newest, { fileName: arrival.fileName }));
      Object.assign(arrival, {
        title: arrival.title || one.title,
        status: one.status,
        classification: one.classification,
        revision: sameRevision ? one.revision : nextRevision(revisions(), one.revision),
        version: joins ? one.versionNumber : one.nextNumber,
        onto: one.versionNumber,
        goesWith: joins ? one.fileName : '',
        reservedBy: one.reservedBy ?? '',
      });
    }
  }
}
