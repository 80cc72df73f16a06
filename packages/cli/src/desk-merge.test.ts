import fc from 'fast-check';
import { expect, it } from 'vitest';
import { DESK_FIELDS, mergeTopic, type DeskTopic } from './desk-merge.ts';

const last: DeskTopic = { title: 'Duct', topic_status: 'open', labels: ['a'] };

it('what was changed on one side goes to the other', () => {
  expect(mergeTopic(last, { ...last, topic_status: 'closed' }, last)).toEqual({
    ...{ topic: { ...last, topic_status: 'closed' }, toServer: true, conflicts: [] },
  });
  expect(mergeTopic(last, last, { ...last, title: 'Main duct' })).toEqual({
    ...{ topic: { ...last, title: 'Main duct' }, toServer: false, conflicts: [] },
  });
});

it('of what was changed on both sides the server’s word counts, and it is told', () => {
  const merged = mergeTopic(last, { ...last, title: 'Mine', labels: ['b'] }, { ...last, title: 'Theirs' });
  expect(merged.topic).toMatchObject({ title: 'Theirs', labels: ['b'] });
  expect(merged.conflicts).toEqual([{ field: 'title', mine: 'Mine', theirs: 'Theirs' }]);
  expect(mergeTopic(last, { ...last, title: 'Both' }, { ...last, title: 'Both' }).conflicts).toEqual([]);
});

const topic = fc.record(Object.fromEntries(DESK_FIELDS.map((field) => [field, fc.constantFrom('a', 'b', 'c')])));
it('in step there is nothing to do, and once merged both are in step', () => {
  fc.assert(
    fc.property(topic, topic, topic, (was, mine, theirs) => {
      const { topic: merged } = mergeTopic(was, mine, theirs);
      const again = mergeTopic(merged, merged, merged);
      expect(again).toMatchObject({ toServer: false, conflicts: [] });
      for (const field of DESK_FIELDS) expect([mine[field], theirs[field]]).toContain(merged[field]);
    }),
  );
});
