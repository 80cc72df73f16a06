export interface Postgres {
  url: string;
  stop(): void;
  remove(): void;
}
export function startPostgres(
  folder: string,
  options?: { database?: string; settings?: string[]; port?: number },
): Promise<Postgres>;
export function freePort(): Promise<number>;
