/** What a click in the scene does. */
import { MARK_KINDS, MEASURE_KINDS, type MarkKind, type MeasureKind } from '@kindred/core/scene/measure';
import { STEPS } from './measuring.ts';

export type SceneTool =
  | { act: 'choose' }
  | { act: 'frame' }
  | { act: 'cut' }
  | { act: 'measure'; kind: MeasureKind }
  | { act: 'mark'; kind: MarkKind };
export const CHOOSE: SceneTool = { act: 'choose' };

/** Points that a mark has; of a line as many as one likes. */
export const MARK_POINTS: Record<MarkKind, number> = { line: Infinity, arrow: 2, cloud: 2, dimension: 2, text: 1 };

/** What to do next, in one line; nothing while one only chooses. */
export function hintOf(tool: SceneTool, points: number): string {
  switch (tool.act) {
    case 'choose':
      return '';
    case 'frame':
      return 'Draw a frame around elements: what lies wholly in it is selected.';
    case 'cut':
      return 'Point at a face: what lies before it is cut away.';
    case 'measure':
      return STEPS[tool.kind][points] ?? '';
    case 'mark':
      return tool.kind === 'line'
        ? 'Point at the places of the line; Enter ends it.'
        : points
          ? 'Point at where it ends.'
          : 'Point at where it begins.';
  }
}

export const MEASURE_TOOLS: readonly { kind: MeasureKind; words: string }[] = MEASURE_KINDS.map((kind) => ({
  kind,
  words:
    { 'square to face': 'square to a face', 'between faces': 'face to face', height: 'clear height' }[kind as string] ??
    kind,
}));
export const MARK_TOOLS: readonly { kind: MarkKind; words: string }[] = MARK_KINDS.map((kind) => ({
  kind,
  words: kind,
}));
