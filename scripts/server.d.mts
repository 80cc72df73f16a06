import type { ChildProcess } from 'node:child_process';

export interface ServerProcess {
  address: string;
  child: ChildProcess;
  ended: Promise<number | null>;
  stop(): Promise<void>;
}
export function startServer(env: Record<string, string>): Promise<ServerProcess>;
export function startWithDemo(
  env: Record<string, string>,
  hears?: { started?: (server: ServerProcess) => void; loading?: () => void },
): Promise<{ loaded: boolean; server: ServerProcess }>;
