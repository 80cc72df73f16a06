/** The markups of a version: what there is, and what people do to it, step by step. */
import {
  addMarkup,
  changeMarkup,
  deleteMarkup,
  listMarkups,
  publishMarkups,
  type Markup,
} from '@kindred/contract/markup/markup';
import { counted } from '@kindred/words/sentence';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import { call } from '../platform/api.ts';
import { attempt, sayDone } from '../platform/say.ts';
import { useProject } from '../portfolio/store.ts';
import { useCommands, type Changeable, type Command, type NewMarkup } from './commands.ts';

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
        const params = { ...project.params, markupId };
        const changed = await call(changeMarkup, { params, body: { edition: editionOf(markupId), ...values } });
        editions.set(markupId, changed.edition);
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
    const was: Changeable = { ...markup, assigneeId: markup.assignee?.id ?? null };
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
