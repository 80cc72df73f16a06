import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';

const call = vi.fn();
const said: { undo?: () => void; problems: unknown[] } = { problems: [] };
vi.mock('../platform/api.ts', () => ({ call: (...given: unknown[]) => call(...given) as unknown }));
vi.mock('../platform/say.ts', () => ({
  sayDone: () => undefined,
  sayProblem: (error: unknown) => said.problems.push(error),
  sayUndoable: (_words: string, undo: () => void) => void (said.undo = undo),
}));
vi.mock('../portfolio/store.ts', () => ({ useProject: () => ({ params: { projectId: 'p' } }) }));
const { useEdits } = await import('./edits.ts');

const edit = (title: string) => [{ containerId: 'c', title }];
beforeEach(() => {
  setActivePinia(createPinia());
  call.mockReset();
  said.problems = [];
});

it('what is changed in place is taken back in the order in which it was done', async () => {
  const edits = useEdits();
  call.mockResolvedValueOnce({ before: edit('one') }).mockResolvedValueOnce({ before: edit('two') });
  expect(await edits.change(edit('two'))).toBe(true);
  expect(await edits.change(edit('three'))).toBe(true);
  call.mockResolvedValue({ before: [] });
  said.undo!();
  said.undo!();
  await vi.waitFor(() => expect(call).toHaveBeenCalledTimes(4));
  const sent = call.mock.calls.map(([, given]) => (given as { body: { edits: unknown } }).body.edits);
  expect(sent).toEqual([edit('two'), edit('three'), edit('two'), edit('one')]);
  expect(edits.undoable).toEqual([]);
});

it('what was refused is said, and there is nothing to take back', async () => {
  const edits = useEdits();
  call.mockRejectedValue(new Error('Somebody else changed it.'));
  expect(await edits.change(edit('new'))).toBe(false);
  expect(said.problems).toHaveLength(1);
  expect(edits.undoable).toEqual([]);
});
