import { PiniaColada } from '@pinia/colada';
import { flushPromises, mount } from '@vue/test-utils';
import { createPinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import { defineComponent, h, reactive } from 'vue';

const project = reactive({ projectId: 'p', rights: true, params: {}, may: () => project.rights });
vi.mock('../portfolio/store.ts', () => ({ useProject: () => project }));
const asked = vi.fn();
vi.mock('../platform/api.ts', () => ({ call: (...args: unknown[]) => asked(...args) as Promise<unknown> }));
const { usePeople } = await import('./store.ts');

const person = (id: string, leftAt: string | null = null) => ({ id, leftAt, person: { id, name: id } });
let pinia: ReturnType<typeof createPinia>;
/** A page that shows the people; leaving it is unmounting it. */
const page = () =>
  mount(
    defineComponent(() => {
      const people = usePeople();
      return () =>
        h(
          'ol',
          people.members.map(({ id }) => h('li', id)),
        );
    }),
    { global: { plugins: [pinia, PiniaColada] } },
  );
beforeEach(() => {
  pinia = createPinia();
  project.projectId = 'p';
  project.rights = true;
  asked.mockReset().mockResolvedValue({ members: [person('ada'), person('ben', '2026-01-01')] });
});

it('shows those who are here; who left stays known, and is offered nowhere', async () => {
  const view = page();
  await flushPromises();
  expect(view.findAll('li').map((line) => line.text())).toEqual(['ada']);
  expect(asked).toHaveBeenCalledOnce();
});

it('stays live after the page that asked first is left, and asks once for all pages', async () => {
  page().unmount();
  const next = page();
  await flushPromises();
  asked.mockResolvedValue({ members: [person('ada'), person('cleo')] });
  await usePeople(pinia).refetch();
  await flushPromises();
  expect(next.findAll('li').map((line) => line.text())).toEqual(['ada', 'cleo']);
});

it('asks for nothing outside a project, nor where nobody may see people', async () => {
  project.projectId = '';
  page();
  await flushPromises();
  project.projectId = 'q';
  project.rights = false;
  await flushPromises();
  expect(asked).not.toHaveBeenCalled();
});
