import { mount } from '@vue/test-utils';
import { expect, it, vi } from 'vitest';
import { useSheetKeys, type SheetKeys } from './sheet-keys.ts';

function sheet(over: Partial<SheetKeys> = {}) {
  const keys: SheetKeys = {
    sleeps: () => false,
    withControl: { z: vi.fn(() => true), c: vi.fn(() => false) },
    plain: { Escape: vi.fn(), '0': vi.fn() },
    nudge: vi.fn(() => true),
    tool: vi.fn(),
    ...over,
  };
  mount({ setup: () => void useSheetKeys(keys), template: '<i />' }, { attachTo: document.body });
  return keys;
}
function press(key: string, init: KeyboardEventInit = {}, target: EventTarget = document): KeyboardEvent {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init });
  target.dispatchEvent(event);
  return event;
}

it('each key does its own, and only what was done is kept from the browser', () => {
  const keys = sheet();
  expect(press('z', { ctrlKey: true, shiftKey: true }).defaultPrevented).toBe(true);
  expect(keys.withControl.z).toHaveBeenCalledWith(true);
  expect(press('c', { ctrlKey: true }).defaultPrevented).toBe(false);
  press('Escape');
  expect(keys.plain.Escape).toHaveBeenCalled();
  press('ArrowUp', { shiftKey: true });
  expect(keys.nudge).toHaveBeenCalledWith([0, -1], true);
  press('C');
  expect(keys.tool).toHaveBeenCalledWith('c');
});

it('whoever types is left alone, and so is a dialog', () => {
  const keys = sheet();
  const input = document.createElement('input');
  document.body.append(input);
  press('c', {}, input);
  expect(keys.tool).not.toHaveBeenCalled();
  const asleep = sheet({ sleeps: () => true });
  press('0');
  expect(asleep.plain['0']).not.toHaveBeenCalled();
});
