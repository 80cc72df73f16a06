import type { ChildProcess } from 'node:child_process';

export interface ServerProcess {
  address: string;
  child: ChildProcess;
  ended: Promise<number | null>;
  stop(): Promise<void>;
}
export function startServer(env: Record<string, string>): Promise<ServerProcess>;
export function loadDemo(address: string, clockSecret: string): Promise<void>;
