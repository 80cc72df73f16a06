/** How two versions are shown. */
export const COMPARE_MODES = {
  over: 'On each other',
  side: 'Side by side',
  curtain: 'Curtain',
  turns: 'In turns',
} as const;
export type CompareMode = keyof typeof COMPARE_MODES;

export const MODEL_MODES = { over: 'In one picture', side: 'Side by side' } as const;
export type ModelMode = keyof typeof MODEL_MODES;
