import { expect, it } from 'vitest';
import { createApp } from 'vue';
import { installElements } from './elements.ts';

const views = import.meta.glob<string>('../**/*.vue', { query: '?raw', import: 'default', eager: true });

it('every part of Element Plus that a view shows is there', () => {
  const app = createApp({});
  installElements(app);
  const used = new Set(Object.values(views).flatMap((source) => source.match(/(?<=<)el-[a-z0-9-]+/g) ?? []));
  expect(used.size).toBeGreaterThan(10);
  const nameOf = (tag: string): string =>
    tag.replace(/(?:^|-)([a-z0-9])/g, (_, letter: string) => letter.toUpperCase());
  expect([...used].filter((tag) => !app.component(nameOf(tag)))).toEqual([]);
});
