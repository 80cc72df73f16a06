import { editContainers } from '@kindred/contract/register/register';
import type { Body } from '@kindred/contract/platform/operation';
import { defineStore } from 'pinia';
import { ref } from 'vue';
import { call } from '../platform/api.ts';
import { sayDone, sayProblem, sayUndoable } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';

export type Edit = Body<typeof editContainers>['edits'][number];

/** Changes of metadata made in place, each of which can be undone. */
export const useEdits = defineStore('edits', () => {
  const project = useProject();
  const undoable = ref<Edit[][]>([]);

  async function run(edits: Edit[]): Promise<Edit[] | undefined> {
    try {
      return (await call(editContainers, { params: project.params, body: { edits } })).before;
    } catch (error) {
      sayProblem(error);
      return undefined;
    }
  }

  async function change(edits: Edit[]): Promise<boolean> {
    const before = await run(edits);
    if (!before) return false;
    undoable.value.push(before);
    sayUndoable(edits.length === 1 ? 'Changed.' : `${edits.length} changed.`, () => void undo());
    return true;
  }

  /** Takes the last change back. */
  async function undo(): Promise<void> {
    const before = undoable.value.pop();
    if (before && (await run(before))) sayDone('As it was before.');
  }

  return { change, undo, undoable };
});
