import type { Placing } from '@kindred/core/scene/placing';
import { sayPlacing } from './positions.ts';
import { counted } from './sentence.ts';

/** What happened, in words: `Version 3 delivered`, `Made version 1 current again`. */
interface Event {
  verb: string;
  before: unknown;
  after: unknown;
}

const part = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined;
const inAfter = ({ after }: Event, key: string): string => String(part(after, key) ?? '');

const SAID: Record<string, (event: Event) => string> = {
  delivered: (event) =>
    inAfter(event, 'version') === '1' ? 'delivered' : `version ${inAfter(event, 'version')} delivered`,
  'delivered in conflict': (event) =>
    `version ${inAfter(event, 'version')} delivered, in conflict with the current one`,
  'native file added': (event) =>
    `native file ${inAfter(event, 'fileName')} added to version ${inAfter(event, 'version')}`,
  'made current again': (event) => `version ${inAfter(event, 'restores')} made current again`,
  'version taken': (event) => `version ${inAfter(event, 'decided')} taken`,
  'version set aside': (event) => `version ${inAfter(event, 'decided')} set aside`,
  'edition made': (event) => `edition ${inAfter(event, 'edition')} made`,
  moved: ({ after }) => (part(after, 'folder') ? `moved to ${String(part(after, 'folder'))}` : 'moved'),
  'code repaired': ({ before, after }) =>
    `code repaired: ${String(part(before, 'code'))} is ${String(part(after, 'code'))} now`,
  'markup carried': (event) => `carried from version ${inAfter(event, 'from')} to version ${inAfter(event, 'version')}`,
  'sheets compared': ({ after }) =>
    `compared with version ${String(part(after, 'from'))}: ${counted(Number(part(after, 'changes')), 'change')}`,
  'models compared': ({ after }) =>
    `compared with version ${String(part(after, 'from'))}: ${counted(Number(part(after, 'changes')), 'change')}`,
  'clashes found': ({ after }) =>
    `${String(part(after, 'new'))} new, ${String(part(after, 'standing'))} standing, ${String(part(after, 'gone'))} gone`,
  'clashes accepted': ({ after }) =>
    `${counted(Number(part(after, 'clashes')), 'clash', 'clashes')} accepted: ${String(part(after, 'reason'))}`,
  arranged: ({ after }) =>
    part(after, 'folder') ? `put into ${String(part(after, 'folder'))}` : 'taken out of its folder',
  renamed: ({ before, after }) => `renamed from ${String(part(before, 'name'))} to ${String(part(after, 'name'))}`,
  'model placed': ({ after }) => `put to the other models: ${sayPlacing(after as Placing)}`,
  'placing taken back': () => 'lies as it was delivered again',
  'plan linked': (event) =>
    `page ${inAfter(event, 'page')} linked with ${inAfter(event, 'storey')} of ${inAfter(event, 'model')}`,
  'words recognised': ({ after }) =>
    `words of ${counted(Number(part(after, 'sheets')), 'sheet')} recognised from the picture`,
  'watchers changed': ({ after }) =>
    part(after, 'added') instanceof Array && (part(after, 'added') as unknown[]).length
      ? 'watched by more'
      : 'watched by fewer',
  'answered with a version': (event) =>
    `answered with version ${inAfter(event, 'version')} of ${inAfter(event, 'code')}`,
  related: (event) => `related: ${inAfter(event, 'kind')} ${inAfter(event, 'number')} ${inAfter(event, 'title')}`,
  tied: (event) => `tied to ${inAfter(event, 'type')} ${inAfter(event, 'title')}`,
  'files downloaded': ({ after }) => {
    const codes = part(after, 'codes');
    const n = Array.isArray(codes) ? codes.length : 0;
    return `${n} ${n === 1 ? 'file' : 'files'} downloaded`;
  },
};

/** The verb of an event, as people read it. */
export const eventWords = (event: Event): string => SAID[event.verb]?.(event) ?? event.verb;
