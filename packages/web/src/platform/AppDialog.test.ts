import { flushPromises, mount } from '@vue/test-utils';
import { afterEach, expect, it } from 'vitest';
import { h } from 'vue';
import AppDialog from './AppDialog.vue';

afterEach(() => void (document.body.innerHTML = ''));

async function open(fields: string, alreadyIn?: string) {
  const button = document.body.appendChild(document.createElement('button'));
  button.focus();
  const dialog = mount(AppDialog, {
    attachTo: document.body,
    props: { title: 'Add person' },
    slots: { default: () => h('div', { innerHTML: fields }) },
    global: { stubs: { teleport: true, transition: false } },
  });
  await flushPromises();
  if (alreadyIn) document.getElementById(alreadyIn)!.focus();
  dialog.findComponent({ name: 'ElDialog' }).vm.$emit('opened');
  return { button, dialog };
}
const focused = () => document.activeElement?.id;

it('begins in its first field that can be filled in', async () => {
  await open(
    '<button id="b"></button><input type="file" id="f"><input id="no" disabled><textarea id="words"></textarea>',
  );
  expect(focused()).toBe('words');
});

it('takes nobody away who already types in one of its fields', async () => {
  await open('<input id="name"><input id="code">', 'code');
  expect(focused()).toBe('code');
});

it('without fields begins at its first button', async () => {
  await open('<p>Sure?</p><button id="yes"></button>');
  expect(focused()).toBe('yes');
});

it('closes by Escape in a field, unless a list stands open there', async () => {
  const { dialog } = await open('<input id="list" aria-expanded="true"><input id="name">');
  // The list closes itself, and tells nobody else.
  dialog.find('#list').element.addEventListener('keydown', (event) => event.stopPropagation());
  await dialog.find('#list').trigger('keydown', { key: 'Escape' });
  expect(dialog.emitted('close')).toBeUndefined();
  await dialog.find('#name').trigger('keydown', { key: 'Escape' });
  expect(dialog.emitted('close')).toHaveLength(1);
});

it('gives the focus back to where it was, if that is still there', async () => {
  const { button, dialog } = await open('<input id="name">');
  dialog.unmount();
  expect(document.activeElement).toBe(button);
  const gone = await open('<input id="name">');
  gone.button.remove();
  gone.dialog.unmount();
  expect(document.activeElement).not.toBe(gone.button);
});
