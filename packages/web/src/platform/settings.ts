import type { CalloutTag } from '@kindred/core/markup/callouts';
import type { LengthUnits } from '@kindred/core/platform/length';
import { reactive } from 'vue';

/** What holds in the project that is open, for whoever writes moments and lengths. Empty where none is open. */
export const settings = reactive({
  projectId: '',
  timeZone: '',
  units: 'metric' as LengthUnits,
  inchFraction: 16,
  calloutTag: 'flag' as CalloutTag,
});
