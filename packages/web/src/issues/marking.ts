/** Marks on a picture, before it is kept: in its own pixels. */
export const MARK_TOOLS = { pen: 'Draw', arrow: 'Arrow', box: 'Frame', word: 'Words' } as const;
export type MarkTool = keyof typeof MARK_TOOLS;

export interface PictureMark {
  tool: MarkTool;
  /** x, y by turns: all points of a line drawn by hand, else where it began and ended. */
  points: number[];
  text: string;
}

/** What the picture is called that was taken where an issue was raised. */
export const TAKEN = 'As raised';

const TINY = 4;

/** Whether something was drawn that can be seen. */
export const isSeen = ({ tool, points, text }: PictureMark): boolean => {
  if (tool === 'word') return text.trim() !== '';
  const [x = 0, y = 0] = points;
  return points.some((value, i) => Math.abs(value - (i % 2 ? y : x)) > TINY);
};

/** A line drawn by hand goes on; all others end elsewhere. */
export const drawnTo = (mark: PictureMark, [x, y]: readonly [number, number]): PictureMark => ({
  ...mark,
  points: mark.tool === 'pen' ? [...mark.points, x, y] : [mark.points[0]!, mark.points[1]!, x, y],
});
