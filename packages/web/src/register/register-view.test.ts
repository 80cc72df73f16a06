import { beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, reactive, ref } from 'vue';

const route = reactive({ query: {} as Record<string, string | string[] | undefined> });
vi.mock('vue-router', () => ({
  useRoute: () => route,
  useRouter: () => ({ replace: ({ query }: typeof route) => void (route.query = JSON.parse(JSON.stringify(query))) }),
}));
const kept = ref<string[]>();
vi.mock('../identity/preferences.ts', () => ({
  usePreference: (_key: () => string, initial: string[]) =>
    computed({ get: () => kept.value ?? initial, set: (keys) => void (kept.value = keys) }),
}));
vi.mock('../portfolio/store.ts', () => ({ useProject: () => ({ projectId: 'p' }) }));
const { useRegisterView } = await import('./register-view.ts');

beforeEach(() => {
  route.query = {};
  kept.value = undefined;
});

describe('the address of the register', () => {
  it('becomes what the server is asked, and nothing that it does not know', () => {
    route.query = {
      q: 'roof',
      status: 'S1,S3',
      conflicting: '1',
      reserved: 'yes',
      deep: '1',
      sort: 'password',
      other: 'x',
    };
    const view = useRegisterView();
    expect(view.filters.value).toEqual({ status: 'S1,S3', conflicting: true, q: 'roof' });
    expect(view.order.value).toEqual({ sort: 'code', descending: false });
    route.query = { folder: 'f', deep: '1', sort: 'title', down: '1', q: ['twice', 'given'] };
    expect(view.filters.value).toEqual({ folderId: 'f', deep: true });
    expect(view.order.value).toEqual({ sort: 'title', descending: true });
  });

  it('turns the order round when one sorts by the same column again', () => {
    const view = useRegisterView();
    const orders = ['title', 'title', 'title', 'status', undefined].map((sort) => {
      view.sortBy(sort);
      return `${view.order.value.sort} ${view.order.value.descending ? 'down' : 'up'}`;
    });
    expect(orders).toEqual(['title up', 'title down', 'title up', 'status up', 'status up']);
  });

  it('holds parts of the code beside each other, until they are cleared', () => {
    const view = useRegisterView();
    view.setPart('Form', 'D');
    view.setPart('Level', '01');
    expect(view.parts.value).toEqual({ Form: 'D', Level: '01' });
    view.setPart('Form', undefined);
    expect(view.filters.value).toEqual({ fields: '{"Level":"01"}' });
    view.setPart('Level', undefined);
    expect(route.query).toEqual({});
    route.query = { fields: '{broken' };
    expect(view.parts.value).toEqual({});
  });

  it('is kept as a view with its columns, and shown again as it was', () => {
    const view = useRegisterView();
    route.query = { status: 'S3', sort: 'title', group: 'state', view: 'old' };
    view.columns.value = ['revision', 'field:Form'];
    const definition = view.definition.value;
    expect(definition).toEqual({
      filters: { status: 'S3', sort: 'title' },
      columns: ['revision', 'field:Form'],
      groupBy: 'state',
    });
    route.query = { q: 'else' };
    view.columns.value = ['size'];
    view.show('new', definition);
    expect(route.query).toEqual({ status: 'S3', sort: 'title', group: 'state', view: 'new' });
    expect(view.columns.value).toEqual(['revision', 'field:Form']);
  });
});
