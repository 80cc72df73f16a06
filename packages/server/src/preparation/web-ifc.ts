import v8 from 'node:v8';
import type { IfcAPI } from 'web-ifc';

/**
 * Optimising WebAssembly takes tens of megabytes for a moment, more than most files: one function at a time,
 * and only those that are busy for long.
 */
const FRUGAL = ['--wasm-num-compilation-tasks=1', '--wasm-tiering-budget=18000000'];

let loaded: Promise<IfcAPI> | undefined;
/** web-ifc, loaded once per process and told to keep its log to itself. */
export function webIfc(): Promise<IfcAPI> {
  loaded ??= load();
  return loaded;
}

async function load(): Promise<IfcAPI> {
  for (const flag of FRUGAL) v8.setFlagsFromString(flag);
  const { IfcAPI, LogLevel } = await import('web-ifc');
  const api = new IfcAPI();
  await api.Init();
  api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
  return api;
}
