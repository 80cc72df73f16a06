/** What somebody chooses of a BCF file that was read. */
import type { FoundTopic, takeBcfImport } from '@kindred/contract/bcf/bcf';
import type { Body } from '@kindred/contract/platform/operation';

export type FieldSide = 'theirs' | 'mine';
type Field = FoundTopic['fields'][number];

/** `leave`: topics that are left out; `sides`: what was chosen otherwise than it is proposed, by `guid/field`. */
export interface ImportChoices {
  leave: ReadonlySet<string>;
  sides: ReadonlyMap<string, FieldSide>;
}

/** What was changed there alone is taken; what was changed on both sides stays until somebody says otherwise. */
export const sideOf = ({ sides }: ImportChoices, guid: string, { field, found }: Field): FieldSide =>
  sides.get(`${guid}/${field}`) ?? (found === 'theirs' ? 'theirs' : 'mine');

export function bodyOf(topics: readonly FoundTopic[], choices: ImportChoices): Body<typeof takeBcfImport> {
  const differing = (found: Field['found'], side: FieldSide) =>
    Object.fromEntries(
      topics.flatMap(({ guid, fields }) => {
        const named = fields
          .filter((one) => one.found === found && sideOf(choices, guid, one) === side)
          .map(({ field }) => field);
        return named.length && !choices.leave.has(guid) ? [[guid, named]] : [];
      }),
    );
  return { leave: [...choices.leave], theirs: differing('both', 'theirs'), mine: differing('theirs', 'mine') };
}

/** Those that were changed on both sides first, then what was changed there, then what is new. */
const ORDER: Record<FoundTopic['found'], number> = { conflict: 0, changed: 1, new: 2, same: 3 };
export const inOrder = (topics: readonly FoundTopic[]): FoundTopic[] =>
  [...topics].sort((a, b) => ORDER[a.found] - ORDER[b.found] || (a.issue?.number ?? 0) - (b.issue?.number ?? 0));
