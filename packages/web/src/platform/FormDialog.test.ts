import { flushPromises, mount } from '@vue/test-utils';
import { expect, it, vi } from 'vitest';
import { defineComponent, h } from 'vue';
import FormDialog from './FormDialog.vue';

vi.mock('./say.ts', () => ({
  attempt: async (run: () => Promise<unknown>) => {
    try {
      await run();
      return true;
    } catch {
      return false;
    }
  },
}));

const ElDialog = defineComponent({
  inheritAttrs: false,
  emits: ['opened', 'close'],
  render() {
    return h('div', [this.$slots.default?.(), this.$slots.footer?.()]);
  },
});

function open(run: () => Promise<unknown>, ready = true) {
  const dialog = mount(FormDialog, {
    attachTo: document.body,
    props: { title: 'Add person', verb: 'Add person', ready, run },
    slots: { default: () => h('input', { id: 'name' }) },
    global: { stubs: { ElDialog } },
  });
  return { dialog, enter: () => dialog.find('form').trigger('submit') };
}

it('does once what it asks for, however often Enter is pressed, and then closes', async () => {
  let finish = (): void => {};
  const run = vi.fn(() => new Promise<void>((resolve) => (finish = resolve)));
  const { dialog, enter } = open(run);
  await enter();
  await enter();
  expect(run).toHaveBeenCalledOnce();
  expect(dialog.emitted('close')).toBeUndefined();
  finish();
  await flushPromises();
  expect(dialog.emitted('close')).toHaveLength(1);
});

it('stays with all that was typed when it is refused', async () => {
  const { dialog, enter } = open(() => Promise.reject(new Error('taken')));
  await dialog.find('#name').setValue('Ines');
  await enter();
  await flushPromises();
  expect(dialog.emitted('close')).toBeUndefined();
  expect((dialog.find('#name').element as HTMLInputElement).value).toBe('Ines');
  expect(dialog.find('[native-type=submit], [type=submit]').attributes('disabled')).toBeUndefined();
});

it('does nothing before it is ready', async () => {
  const run = vi.fn(async () => {});
  await open(run, false).enter();
  expect(run).not.toHaveBeenCalled();
});
