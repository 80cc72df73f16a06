import type { Grid } from '../people/rights.ts';
import { atLeast, type Level } from './folder-rights.ts';
import { actionsIn } from '../platform/machine.ts';
import { containerTransitions, type ContainerAction, type ContainerState } from './states.ts';

/** Who asks: what they are in the project. */
export interface Asker {
  administrator: boolean;
  grid: Grid;
  teamId: string | null;
}
interface Asked {
  /** What folder permissions and roles leave in its folder. */
  level: Level;
  state: ContainerState;
  teamId: string | null;
}

/** Whether a container is of somebody's own team, or they stand above the teams. */
const isOwn = ({ administrator, grid, teamId }: Asker, asked: Asked): boolean =>
  administrator || asked.teamId === null || asked.teamId === teamId || Boolean(grid.register?.includes('manage'));

/** Whether somebody may add versions to a container. */
export const mayAddVersions = (me: Asker, container: Asked): boolean =>
  atLeast(container.level, 'deliver') && isOwn(me, container) && Boolean(me.grid.register?.includes('add'));

/** Whether somebody may change what a container says of itself, or its state. */
export const mayChange = (me: Asker, container: Asked): boolean =>
  atLeast(container.level, 'deliver') && isOwn(me, container) && Boolean(me.grid.register?.includes('change'));

/** Whether somebody may change the metadata of a container: what is archived stays as it is. */
export const mayDescribe = (me: Asker, container: Asked): boolean =>
  container.state !== 'archived' && mayChange(me, container);

/** What may be done to the state of a container by whoever may change it: the archive is opened by those who manage the register. */
export const actionsFrom = (state: ContainerState, manages: boolean): ContainerAction[] =>
  actionsIn(containerTransitions, state).filter((action) => manages || action !== 'bring back');
