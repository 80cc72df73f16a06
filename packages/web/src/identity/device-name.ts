const BROWSERS: [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/OPR\//, 'Opera'],
  [/Chrom(?:e|ium)\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: [RegExp, string][] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
];
const found = (list: [RegExp, string][], text: string): string | undefined =>
  list.find(([sign]) => sign.test(text))?.[1];

/** What people call a device by which the browser names itself (the header User-Agent). */
export function deviceName(userAgent: string): string {
  const browser = found(BROWSERS, userAgent);
  const system = found(SYSTEMS, userAgent);
  if (!browser) return userAgent ? 'A program' : 'Unknown';
  return system ? `${browser} on ${system}` : browser;
}
