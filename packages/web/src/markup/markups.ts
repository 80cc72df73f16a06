/** The markups of a version: what there is, and what people do to it, step by step. */
import {
  addMarkup,
  changeMarkup,
  deleteMarkup,
  listMarkups,
  publishMarkups,
  showMarkup,
  type Markup,
} from '@kindred/contract/markup/markup';
import { counted } from '@kindred/words/sentence';
import { useQuery } from '@pinia/colada';
import { ElMessageBox } from 'element-plus';
import { computed } from 'vue';
import { ApiProblem, call } from '../platform/api.ts';
import { answered, attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useCommands, type Changeable, type Command, type NewMarkup } from './commands.ts';

const valuesOf = (markup: Markup): Changeable => ({ ...markup, assigneeId: markup.assignee?.id ?? null });

/** Somebody else changed the same of it meanwhile: theirs stands, unless one wants one's own over it. */
async function wantsMine(who = 'Someone else'): Promise<boolean> {
  const answer = await answered(
    ElMessageBox.confirm(
      `${who} changed this markup at the same time. Nothing of yours is saved yet. Yours can go over theirs, which stays in its history, or theirs stays as it is.`,
      'Changed by both of you',
      { confirmButtonText: 'Save mine', cancelButtonText: 'Leave theirs' },
    ),
  );
  return answer !== undefined;
}

export function useMarkups(versionId: () => string) {
  const project = useProject();
  const versionParams = () => ({ ...project.params, versionId: versionId() });
  const { data, refetch } = useQuery({
    key: () => [project.projectId, 'markup', versionId()],
    query: () => call(listMarkups, { params: versionParams() }),
    enabled: () => versionId() !== '' && project.may('markup', 'see'),
  });
  const list = computed(() => data.value ?? []);
  /** Editions as they are after what was done last: several changes of one step follow each other before the list is there anew. */
  const editions = new Map<string, number>();
  const editionOf = (id: string): number =>
    Math.max(editions.get(id) ?? 0, list.value.find((markup) => markup.id === id)?.edition ?? 0);

  const commands = computed(() =>
    useCommands(versionId(), {
      add: (id, markup) => call(addMarkup, { params: versionParams(), body: { id, ...markup } }),
      async change(markupId, values) {
        const known = list.value.find(({ id }) => id === markupId);
        const send = async (edition: number): Promise<void> => {
          const params = { ...project.params, markupId };
          const changed = await call(changeMarkup, { params, body: { edition, ...values } });
          editions.set(markupId, changed.edition);
        };
        try {
          await send(editionOf(markupId));
        } catch (error) {
          if (!(error instanceof ApiProblem && error.problem.code === 'conflict' && known)) throw error;
          const now = await call(showMarkup, { params: { ...project.params, markupId } });
          const [before, after] = [valuesOf(known), valuesOf(now.markup)];
          const touched = (Object.keys(values) as (keyof Changeable)[]).some(
            (part) => JSON.stringify(before[part]) !== JSON.stringify(after[part]),
          );
          if (touched && !(await wantsMine(now.editions.at(-1)?.by.name))) return false;
          await send(now.markup.edition);
        }
        return true;
      },
      remove: (markupId) => call(deleteMarkup, { params: { ...project.params, markupId } }),
    }),
  );

  /** Runs, says what is refused, and looks at what is there now; whether all of it was done. */
  async function run(what: () => Promise<unknown>): Promise<boolean> {
    const done = await attempt(what);
    await refetch();
    return done;
  }
  const doAll = (step: Command[]): Promise<boolean> => run(() => commands.value.run(step));
  const change = (markup: Markup, after: Partial<Changeable>): Command => {
    const was = valuesOf(markup);
    const before = Object.fromEntries(Object.keys(after).map((part) => [part, was[part as keyof Changeable]]));
    return { did: 'change', id: markup.id, before, after };
  };

  return {
    list,
    loaded: computed(() => data.value !== undefined),
    add: (markups: NewMarkup[]): Promise<boolean> =>
      doAll(markups.map((markup) => ({ did: 'add', id: crypto.randomUUID(), markup }))),
    change: (changes: { markup: Markup; after: Partial<Changeable> }[]): Promise<boolean> =>
      doAll(changes.map(({ markup, after }) => change(markup, after))),
    remove: (markups: readonly Markup[]): Promise<boolean> =>
      doAll(
        markups.map(({ id, page, shape, style, metresPerPoint, text, status }) => ({
          did: 'remove',
          id,
          markup: { page, shape, style, metresPerPoint, text, status },
        })),
      ),
    undo: () => run(() => commands.value.undo()),
    redo: () => run(() => commands.value.redo()),
    mayUndo: computed(() => commands.value.mayUndo.value),
    mayRedo: computed(() => commands.value.mayRedo.value),
    async publish(markups: readonly Markup[]): Promise<void> {
      const body = { markupIds: markups.map(({ id }) => id) };
      const done = await run(() => call(publishMarkups, { params: versionParams(), body }));
      if (done)
        sayDone(
          `${counted(markups.length, 'markup')} published: whoever sees this sheet sees ${markups.length === 1 ? 'it' : 'them'}.`,
        );
    },
  };
}
