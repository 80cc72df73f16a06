/** A topic that comes back, held against the issue that it is: what was changed there, here, or on both sides. */
import type { BcfTopic } from './bcf-file.ts';

export const BCF_FIELDS = [
  'title',
  'description',
  'type',
  'status',
  'priority',
  'assignedTo',
  'due',
  'labels',
] as const;
export type BcfField = (typeof BCF_FIELDS)[number];
/** What a topic says in each of them; what it does not say is empty. Days as YYYY-MM-DD, labels in their order of letters. */
export type BcfFields = Record<BcfField, string>;

export const fieldsOf = (topic: Pick<BcfTopic, BcfField>): BcfFields => ({
  title: topic.title.trim(),
  description: (topic.description ?? '').replaceAll('\r\n', '\n').trim(),
  type: (topic.type ?? '').trim(),
  status: (topic.status ?? '').trim(),
  priority: (topic.priority ?? '').trim(),
  assignedTo: (topic.assignedTo ?? '').trim().toLowerCase(),
  due: (topic.due ?? '').slice(0, 10),
  labels: [...new Set(topic.labels.map((label) => label.trim()).filter(Boolean))].sort().join(', '),
});

export interface FieldChange {
  field: BcfField;
  mine: string;
  theirs: string;
  /** `both`: it was changed here too since it was said last. */
  found: 'theirs' | 'both';
}

/**
 * `said`: what was written out or taken in of this issue so far, the newest last. A value that was said once was not changed there:
 * the file is older than what is here. O(fields × said).
 */
export function compareTopic(said: readonly BcfFields[], mine: BcfFields, theirs: BcfFields): FieldChange[] {
  const last = said.at(-1);
  return BCF_FIELDS.flatMap((field): FieldChange[] => {
    const [ours, other] = [mine[field], theirs[field]];
    if (ours === other || said.some((earlier) => earlier[field] === other)) return [];
    return [{ field, mine: ours, theirs: other, found: last && last[field] === ours ? 'theirs' : 'both' }];
  });
}
