import fc from 'fast-check';
import { beforeEach, expect, it } from 'vitest';
import { nextTick } from 'vue';
import { useCommands, type Command, type Doer, type NewMarkup } from './commands.ts';

beforeEach(() => localStorage.clear());
const markup = (text: string): NewMarkup => ({
  page: 1,
  shape: { kind: 'note', points: [[1, 2]] },
  style: {},
  metresPerPoint: null,
  text,
  status: 'ask',
});

/** A server of markups by id. */
function server() {
  const known = new Map<string, NewMarkup>();
  const doer: Doer = {
    add: (id, one) => Promise.resolve(known.set(id, one)),
    change(id, values) {
      if (!known.has(id)) return Promise.reject(new Error('gone'));
      if (values.text === 'theirs') return Promise.resolve(false);
      known.set(id, { ...known.get(id)!, ...values } as NewMarkup);
      return Promise.resolve(true);
    },
    remove: (id) => Promise.resolve(known.delete(id)),
  };
  return { known, doer, texts: () => [...known].map(([id, { text }]) => `${id} ${text}`).sort() };
}

it('what was done is taken back step by step and done again, whatever it was', async () => {
  const what = fc.tuple(fc.constantFrom('add', 'change', 'remove'), fc.nat(3), fc.string({ maxLength: 4 }));
  await fc.assert(
    fc.asyncProperty(fc.array(what, { maxLength: 15 }), async (wanted) => {
      localStorage.clear();
      const { known, doer, texts } = server();
      const commands = useCommands('p', doer);
      const seen = [texts()];
      for (const [did, number, text] of wanted) {
        const id = `m${number}`;
        const before = known.get(id);
        let command: Command;
        if (!before) command = { did: 'add', id, markup: markup(text) };
        else if (did === 'remove') command = { did: 'remove', id, markup: before };
        else command = { did: 'change', id, before: { text: before.text }, after: { text } };
        await commands.run([command]);
        seen.push(texts());
      }
      for (let i = seen.length - 2; i >= 0; i--) {
        await commands.undo();
        expect(texts()).toEqual(seen[i]);
      }
      expect(commands.mayUndo.value).toBe(false);
      for (let i = 1; i < seen.length; i++) {
        await commands.redo();
        expect(texts()).toEqual(seen[i]);
      }
    }),
    { numRuns: 12 },
  );
});

it('it is known still after the page was loaded anew, by what it belongs to', async () => {
  const { doer, texts } = server();
  await useCommands('p', doer).run([{ did: 'add', id: 'a', markup: markup('one') }]);
  await nextTick();
  expect(useCommands('other', doer).mayUndo.value).toBe(false);
  const again = useCommands('p', doer);
  await again.undo();
  expect(texts()).toEqual([]);
  expect(again.mayRedo.value).toBe(true);
});

it('several that were done together go together, the last first', async () => {
  const { doer, texts } = server();
  const commands = useCommands('p', doer);
  await commands.run([
    { did: 'add', id: 'a', markup: markup('one') },
    { did: 'change', id: 'a', before: { text: 'one' }, after: { text: 'two' } },
  ]);
  expect(texts()).toEqual(['a two']);
  await commands.undo();
  expect(texts()).toEqual([]);
});

it('what cannot be taken back is said and does not come again and again', async () => {
  const { known, doer } = server();
  const commands = useCommands('p', doer);
  await commands.run([{ did: 'add', id: 'a', markup: markup('one') }]);
  await commands.run([{ did: 'change', id: 'a', before: { text: 'one' }, after: { text: 'two' } }]);
  known.clear();
  await expect(commands.undo()).rejects.toThrow('gone');
  expect(commands.mayRedo.value).toBe(false);
});

it('what was left as others made it is no step that can be taken back', async () => {
  const { doer } = server();
  const commands = useCommands('left', doer);
  await commands.run([{ did: 'add', id: 'm1', markup: markup('a') }]);
  await commands.run([{ did: 'change', id: 'm1', before: { text: 'a' }, after: { text: 'theirs' } }]);
  await commands.undo();
  expect(commands.mayUndo.value).toBe(false);
});
