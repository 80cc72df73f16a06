/** What was done to markups, to be taken back and done again; kept by the browser, so also after the page was loaded anew. */
import type { Markup } from '@kindred/contract/markup/markup';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';

/** As much of a markup as people change. */
export type Changeable = Pick<Markup, 'page' | 'shape' | 'style' | 'metresPerPoint' | 'text' | 'status' | 'dueOn'> & {
  assigneeId: string | null;
};
/** What it takes to draw one; its picture was sent before, or is that of a stamp. */
export type NewMarkup = Omit<Changeable, 'assigneeId' | 'dueOn'> & { uploadId?: string; stampId?: string };
export type Command =
  | { did: 'add'; id: string; markup: NewMarkup }
  | { did: 'remove'; id: string; markup: NewMarkup }
  | { did: 'change'; id: string; before: Partial<Changeable>; after: Partial<Changeable> };

/** Each is done to the server, and throws where it is refused. */
export interface Doer {
  add(id: string, markup: NewMarkup): Promise<unknown>;
  /** False where it was left as others made it meanwhile. */
  change(id: string, values: Partial<Changeable>): Promise<boolean>;
  remove(id: string): Promise<unknown>;
}

/** Commands that were done together are one step. */
type Step = readonly Command[];
/** Beyond that many steps a browser has no room. */
const MOST = 500;

const inverse = (command: Command): Command =>
  command.did === 'change'
    ? { ...command, before: command.after, after: command.before }
    : { ...command, did: command.did === 'add' ? 'remove' : 'add' };

/** `key`: what the steps belong to. */
export function useCommands(key: string, doer: Doer) {
  const stack = useLocalStorage<{ done: Step[]; undone: Step[] }>(`steps-${key}`, { done: [], undone: [] });

  /** What was done of it. */
  const run = async (step: Step): Promise<Step> => {
    const done: Command[] = [];
    for (const command of step) {
      if (command.did === 'add') await doer.add(command.id, command.markup);
      else if (command.did === 'remove') await doer.remove(command.id);
      else if (!(await doer.change(command.id, command.after))) continue;
      done.push(command);
    }
    return done;
  };
  return {
    async run(step: Step): Promise<void> {
      const done = await run(step);
      if (done.length) stack.value = { done: [...stack.value.done, done].slice(-MOST), undone: [] };
    },
    /** What cannot be taken back (others changed it, or it was published) is left out, and the refusal passes. */
    async undo(): Promise<void> {
      const { done, undone } = stack.value;
      const step = done.at(-1);
      if (!step) return;
      stack.value = { done: done.slice(0, -1), undone };
      await run([...step].reverse().map(inverse));
      stack.value = { done: stack.value.done, undone: [...undone, step] };
    },
    async redo(): Promise<void> {
      const { done, undone } = stack.value;
      const step = undone.at(-1);
      if (!step) return;
      stack.value = { done, undone: undone.slice(0, -1) };
      await run(step);
      stack.value = { done: [...done, step], undone: stack.value.undone };
    },
    mayUndo: computed(() => stack.value.done.length > 0),
    mayRedo: computed(() => stack.value.undone.length > 0),
  };
}
