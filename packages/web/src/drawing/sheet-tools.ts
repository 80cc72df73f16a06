import { ArrowUpRight, Cloud, Flag, Hand, MessageSquare, RectangleHorizontal } from '@lucide/vue';
import type { Component } from 'vue';

export interface SheetTool {
  name: string;
  word: string;
  key: string;
  icon: Component;
  /** What to do with it, in one line. */
  hint: string;
  /** The kind of thing that it adds; none for those that only look. */
  adds?: 'markup' | 'issues';
}

/** What can be done on a sheet; the first is what one begins with. */
export const SHEET_TOOLS: readonly SheetTool[] = [
  { name: 'look', word: 'Move', key: 'v', icon: Hand, hint: 'Drag to move, turn the wheel to come closer.' },
  { name: 'cloud', word: 'Cloud', key: 'c', icon: Cloud, hint: 'Drag across what has to change.', adds: 'markup' },
  {
    name: 'callout',
    word: 'Callout',
    key: 'o',
    icon: MessageSquare,
    hint: 'Drag from what you point at to where the words shall stand.',
    adds: 'markup',
  },
  { name: 'rectangle', word: 'Box', key: 'b', icon: RectangleHorizontal, hint: 'Drag a box.', adds: 'markup' },
  {
    name: 'arrow',
    word: 'Arrow',
    key: 'a',
    icon: ArrowUpRight,
    hint: 'Drag from the tail to the point.',
    adds: 'markup',
  },
  { name: 'issue', word: 'Issue', key: 'i', icon: Flag, hint: 'Click where the issue is.', adds: 'issues' },
];
