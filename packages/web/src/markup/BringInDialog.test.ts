import type { FoundMarkup } from '@kindred/contract/markup/import';
import { PiniaColada } from '@pinia/colada';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';

const server = vi.hoisted(() => ({
  found: [] as object[],
  job: { id: 'j', status: 'done', note: '' },
  taken: [] as unknown[],
  sent: [] as string[],
}));
vi.mock('../platform/api.ts', () => ({
  call: ({ id }: { id: string }, { body }: { body?: unknown } = {}) => {
    if (id === 'showMarkupImport')
      return Promise.resolve({ versionId: 'v', fileName: 'back.pdf', found: server.found, left: 1, missing: 2 });
    if (id === 'takeMarkups') server.taken.push(body);
    return Promise.resolve(id === 'takeMarkups' ? { added: 1, changed: 0, answers: 1 } : server.job);
  },
}));
vi.mock('../portfolio/store.ts', () => ({ useProject: () => ({ projectId: 'p', params: { projectId: 'p' } }) }));
vi.mock('../platform/jobs-store.ts', () => ({ useJobs: () => ({ ended: () => Promise.resolve(server.job) }) }));
vi.mock('../register/send-file.ts', () => ({
  sendFile: (_: string, file: File, purpose: string) => {
    server.sent.push(`${file.name} for ${purpose}`);
    return Promise.resolve('u');
  },
}));
const said = vi.hoisted(() => [] as string[]);
vi.mock('../platform/say.ts', () => ({
  attempt: (run: () => Promise<unknown>) => run().then(() => true),
  sayDone: (words: string) => said.push(words),
}));
const { default: BringInDialog } = await import('./BringInDialog.vue');

const one = (key: string, found: FoundMarkup['found'], over: Partial<FoundMarkup> = {}): FoundMarkup => ({
  ...{ key, found, page: 1, parts: [], conflicts: [], author: 'Tom', ours: null, answers: [] },
  theirs: { text: `${key} there`, status: 'note', shape: { kind: 'note', points: [[0, 0]] } },
  ...over,
});
const here = {
  id: 'm',
  number: 4,
  text: 'Here',
  status: 'ask' as const,
  shape: { kind: 'note' as const, points: [[0, 0]] as [[number, number]] },
};

beforeEach(() => {
  Object.assign(server, { found: [], job: { id: 'j', status: 'done', note: '' }, taken: [], sent: [] });
  said.length = 0;
});
async function opened() {
  const wrapper = mount(BringInDialog, {
    props: { versionId: 'v', sheetOf: () => '' },
    global: {
      plugins: [createPinia(), PiniaColada],
      stubs: { AppDialog: { template: '<div><slot /><slot name="footer" /></div>' } },
    },
  });
  const input = wrapper.find('input[type=file]');
  Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'back.pdf')] });
  await input.trigger('change');
  await flushPromises();
  return wrapper;
}

it('shows what is news and takes it; what is in conflict waits for a choice', async () => {
  server.found = [
    one('a', 'new'),
    one('b', 'conflict', { ours: here, parts: ['text'], conflicts: ['text'] }),
    one('c', 'same', { ours: here }),
    one('d', 'answered', { ours: here, answers: [{ author: 'Tom', text: 'Done', at: null }] }),
  ];
  const wrapper = await opened();
  expect(server.sent).toEqual(['back.pdf for markup']);
  expect(wrapper.findAll('article')).toHaveLength(3);
  expect(wrapper.text()).toContain('1 conflict left out until you choose');
  expect(wrapper.text()).toContain('2 published here are not in it and stay');
  expect(wrapper.find('.sides').text()).toContain('b there');
  await wrapper
    .findAll('button')
    .find((button) => button.text() === 'Take 2 markups')!
    .trigger('click');
  await flushPromises();
  expect(server.taken).toEqual([
    {
      take: [
        { key: 'a', side: 'theirs' },
        { key: 'd', side: 'theirs' },
      ],
    },
  ]);
  expect(said).toEqual(['Brought in: 1 new, 1 answer.']);
  expect(wrapper.emitted('close')).toHaveLength(1);
});

it('says when there is nothing new, and why a file could not be read', async () => {
  expect((await opened()).text()).toContain('back.pdf says nothing that is not here already.');
  server.job = { id: 'j', status: 'failed', note: 'This PDF asks for a password.' };
  const wrapper = await opened();
  expect(wrapper.find('[role=alert]').text()).toBe('This PDF asks for a password.');
  expect(wrapper.find('input[type=file]').exists()).toBe(true);
});
