export interface Stage {
  address: string;
  folder: string;
  databaseUrl: string;
  close(): Promise<void>;
}
export function openStage(options?: { demo?: boolean; env?: Record<string, string> }): Promise<Stage>;
