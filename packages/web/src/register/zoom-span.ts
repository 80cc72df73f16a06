/** Wheel, drag, pinch and keys move and stretch a span of time. */
import { LONGEST_SPAN, SHORTEST_SPAN, type TimeSpan } from '@kindred/core/register/timeline';
import { scaleUtc } from 'd3-scale';
import { select } from 'd3-selection';
import { zoom, ZoomTransform, type D3ZoomEvent } from 'd3-zoom';
import { onMounted, watch, type Ref } from 'vue';

/** What a gesture changes is how a fixed scale of the longest span is carried to the screen. */
const WHOLE: [number, number] = [0, LONGEST_SPAN];

/** `room`: width in pixels; `left`: where the scale begins on the element. */
export const scaleOf = ({ from, to }: TimeSpan, left: number, room: number) =>
  scaleUtc()
    .domain([from, to])
    .range([left, left + room]);

export function transformOf({ from, to }: TimeSpan, left: number, room: number): ZoomTransform {
  const stretch = LONGEST_SPAN / (to - from);
  return new ZoomTransform(stretch, left - stretch * scaleOf({ from: WHOLE[0], to: WHOLE[1] }, left, room)(from), 0);
}

export function spanOf(transform: ZoomTransform, left: number, room: number): TimeSpan {
  const [from, to] = transform.rescaleX(scaleOf({ from: WHOLE[0], to: WHOLE[1] }, left, room)).domain();
  return { from: from!.getTime(), to: to!.getTime() };
}

/** Answers what keys do: move by a share of what is seen, zoom around its middle. */
export function useZoomSpan(
  element: Ref<HTMLElement | undefined>,
  span: Ref<TimeSpan>,
  left: number,
  room: Ref<number>,
): { key(event: KeyboardEvent): void } {
  const behaviour = zoom<HTMLElement, unknown>()
    .scaleExtent([1, LONGEST_SPAN / SHORTEST_SPAN])
    .filter((event: MouseEvent) => !event.button && !(event.target as Element).closest('.mark'))
    .on('zoom', ({ transform, sourceEvent }: D3ZoomEvent<HTMLElement, unknown>) => {
      if (sourceEvent || moved) span.value = spanOf(transform, left, room.value);
    });
  let moved = false;
  const chosen = () => select(element.value!);
  const follow = (): void => {
    chosen().property('__zoom', transformOf(span.value, left, room.value));
  };
  onMounted(() => {
    chosen().call(behaviour);
    follow();
  });
  watch([span, room], () => element.value && follow());

  const MOVES: Record<string, () => void> = {
    ArrowLeft: () => behaviour.translateBy(chosen(), room.value / 8 / transformOf(span.value, left, room.value).k, 0),
    ArrowRight: () => behaviour.translateBy(chosen(), -room.value / 8 / transformOf(span.value, left, room.value).k, 0),
    '+': () => behaviour.scaleBy(chosen(), 1.5, [left + room.value / 2, 0]),
    '-': () => behaviour.scaleBy(chosen(), 1 / 1.5, [left + room.value / 2, 0]),
  };
  return {
    key(event) {
      const move = MOVES[event.key];
      if (!move) return;
      event.preventDefault();
      moved = true;
      move();
      moved = false;
    },
  };
}
