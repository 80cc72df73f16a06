import type { ServerProcess } from './server.d.mts';

export interface Stage {
  address: string;
  folder: string;
  databaseUrl: string;
  server: ServerProcess;
  close(): Promise<void>;
}
export function openStage(options?: { demo?: boolean; env?: Record<string, string> }): Promise<Stage>;
