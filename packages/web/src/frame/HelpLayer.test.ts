import { HELP } from '@kindred/words/help';
import { mount } from '@vue/test-utils';
import { afterEach, describe, expect, it, vi } from 'vitest';
import HelpLayer from './HelpLayer.vue';

const sources: Record<string, string> = import.meta.glob('../**/*.vue', {
  query: '?raw',
  import: 'default',
  eager: true,
});

describe('explanations', () => {
  const used = new Set(
    Object.values(sources).flatMap((text) => [...text.matchAll(/data-help="([^"]+)"/g)].map((match) => match[1]!)),
  );
  it('are there for each control that asks for one, and none is left over', () => {
    expect([...used].sort()).toEqual(Object.keys(HELP).sort());
  });
});

describe('while they are on', () => {
  const button = document.createElement('button');
  button.dataset.help = 'scene/home';
  const use = vi.fn();
  button.addEventListener('click', use);
  document.body.append(button);
  afterEach(() => use.mockReset());
  const shown = (): string => document.querySelector('.help [role=status]')!.textContent;

  it('a control tells what it does when it is pointed at, pressed or reached, and does nothing', async () => {
    const layer = mount(HelpLayer, { attachTo: document.body });
    expect(shown()).toContain('Point at a control');
    button.dispatchEvent(new Event('pointermove', { bubbles: true }));
    await layer.vm.$nextTick();
    expect(shown()).toContain(HELP['scene/home']!.text);
    button.click();
    expect(use).not.toHaveBeenCalled();
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    expect(layer.emitted('close')).toHaveLength(1);
    layer.unmount();
    expect(document.body.classList.contains('explaining')).toBe(false);
    button.click();
    expect(use).toHaveBeenCalledTimes(1);
  });
});
