/** How two sheets are shown. */
export const COMPARE_MODES = {
  over: 'On each other',
  side: 'Side by side',
  curtain: 'Curtain',
  turns: 'In turns',
} as const;
export type CompareMode = keyof typeof COMPARE_MODES;
