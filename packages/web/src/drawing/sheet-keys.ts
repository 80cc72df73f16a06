/** The keyboard on a sheet. */
import type { Point } from '@kindred/core/markup/shapes';
import { useEventListener } from '@vueuse/core';
import { isTyping } from '../platform/keyboard.ts';

export interface SheetKeys {
  /** Nobody listens while a dialog asks for something. */
  sleeps(): boolean;
  /** With Ctrl or the command key; answers whether there was something to do. */
  withControl: Record<string, (shift: boolean) => boolean>;
  plain: Record<string, () => void>;
  /** Something is chosen that arrows move; answers whether they did. */
  nudge(direction: Point, far: boolean): boolean;
  /** Any other letter chooses a tool. */
  tool(key: string): void;
}

const NUDGES: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

export function useSheetKeys(keys: SheetKeys): void {
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (isTyping(event.target) || keys.sleeps()) return;
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    if (event.ctrlKey || event.metaKey) {
      if (keys.withControl[key]?.(event.shiftKey)) event.preventDefault();
      return;
    }
    const nudge = NUDGES[key];
    if (nudge) {
      if (keys.nudge(nudge, event.shiftKey)) event.preventDefault();
    } else if (keys.plain[key]) keys.plain[key]();
    else keys.tool(key);
  });
}
