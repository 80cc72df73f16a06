import { expect, it } from 'vitest';
import { nextTick, ref } from 'vue';
import { useShownVersion } from './shown-version.ts';

const drawing = (current: number, id = 'd') => ({
  container: { id, versionId: `v${current}`, versionNumber: current },
  versions: Array.from({ length: current }, (_, i) => ({ id: `v${current - i}`, number: current - i })),
});
function table(follow = false) {
  const shown = ref<ReturnType<typeof drawing> | null>(null);
  const [named, follows] = [ref(Number.NaN), ref(follow)];
  const version = useShownVersion(
    () => shown.value,
    () => named.value,
    () => follows.value,
  );
  return { shown, named, version };
}

it('the version that was current when the drawing was opened stays on the table', async () => {
  const { shown, version } = table();
  expect(version.value).toBeNull();
  shown.value = drawing(2);
  await nextTick();
  shown.value = drawing(3);
  await nextTick();
  expect(version.value?.number).toBe(2);
  shown.value = drawing(5, 'another');
  await nextTick();
  expect(version.value?.number).toBe(5);
});

it('whoever follows newer versions gets them, and the address is stronger than both', async () => {
  const { shown, named, version } = table(true);
  shown.value = drawing(2);
  await nextTick();
  shown.value = drawing(3);
  await nextTick();
  expect(version.value?.number).toBe(3);
  named.value = 1;
  expect(version.value?.number).toBe(1);
  named.value = 99;
  expect(version.value?.number).toBe(3);
});
