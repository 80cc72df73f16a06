import { formatLength } from '@kindred/core/platform/length';
import { useProject } from '../portfolio/store.ts';

/** Metres as the project writes lengths. */
export function useLength(): (metres: number) => string {
  const project = useProject();
  return (metres) => {
    const { units = 'metric', inchFraction = 16 } = project.view?.project ?? {};
    return formatLength(metres, units, inchFraction);
  };
}
