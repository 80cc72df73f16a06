/** The geometry kernel, for tests that read what the demo writes. */
import { IfcAPI, LogLevel } from 'web-ifc';

export async function kernel(): Promise<IfcAPI> {
  const api = new IfcAPI();
  await api.Init();
  api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
  return api;
}
