import type { Directive } from 'vue';

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}
const middle = ({ left, right, top, bottom }: Box): [x: number, y: number] => [(left + right) / 2, (top + bottom) / 2];
/** How much farther it counts when something lies aside of the way. */
const ASIDE = 3;
const WAYS: Record<string, [x: number, y: number]> = {
  ArrowRight: [1, 0],
  ArrowLeft: [-1, 0],
  ArrowDown: [0, 1],
  ArrowUp: [0, -1],
};

/** Which of several boxes an arrow leads to from one of them: the nearest that lies that way; undefined where none does. */
export function boxTowards(boxes: readonly Box[], from: number, key: string): number | undefined {
  if (key === 'Home') return 0;
  if (key === 'End') return boxes.length - 1;
  const way = WAYS[key];
  if (!way || !boxes[from]) return undefined;
  const [x, y] = middle(boxes[from]);
  let [best, nearest]: [number | undefined, number] = [undefined, Infinity];
  boxes.forEach((box, i) => {
    const [bx, by] = middle(box);
    const along = (bx - x) * way[0] + (by - y) * way[1];
    const aside = Math.abs((bx - x) * way[1] + (by - y) * way[0]);
    if (i !== from && along > 1 && along + aside * ASIDE < nearest) [best, nearest] = [i, along + aside * ASIDE];
  });
  return best;
}

/** One tab stop for all that the selector finds inside; arrows, Home and End go from one to the other. */
export const arrowKeys: Directive<HTMLElement, string> = {
  mounted(element, { value: selector }) {
    const all = (): HTMLElement[] => [...element.querySelectorAll<HTMLElement>(selector)];
    element.addEventListener('focusin', ({ target }) => {
      const found = all();
      if (found.includes(target as HTMLElement)) reach(found, target as HTMLElement);
    });
    element.addEventListener('keydown', (event) => {
      const found = all();
      const at = found.indexOf(document.activeElement as HTMLElement);
      if (at < 0 || event.altKey || event.ctrlKey || event.metaKey) return;
      const to = boxTowards(
        found.map((one) => one.getBoundingClientRect()),
        at,
        event.key,
      );
      if (to === undefined) return;
      event.preventDefault();
      found[to]!.focus();
    });
    reach(all());
  },
  updated: (element, { value: selector }) => reach([...element.querySelectorAll<HTMLElement>(selector)]),
};

/** Exactly one can be reached by Tab: the given one, else what is chosen or was reached before, else the first. */
function reach(found: readonly HTMLElement[], wanted?: HTMLElement): void {
  const one =
    wanted ??
    found.find((element) => element === document.activeElement) ??
    found.find((element) => element.matches('[aria-selected=true], [aria-current], .here')) ??
    found.find((element) => element.getAttribute('tabindex') === '0') ??
    found[0];
  for (const element of found) element.tabIndex = element === one ? 0 : -1;
}
