import { useMediaQuery } from '@vueuse/core';

/** Below this width there is one thing at a time. */
export const SMALL = '(max-width: 700px)';
export const useSmallScreen = () => useMediaQuery(SMALL);
