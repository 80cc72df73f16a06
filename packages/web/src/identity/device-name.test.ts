import { expect, it } from 'vitest';
import { deviceName } from './device-name.ts';

it.each([
  ['Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 Chrome/129.0 Safari/537.36', 'Chrome on Windows'],
  ['Mozilla/5.0 (Macintosh; Intel Mac OS X 14_0) AppleWebKit/605.1 Version/17.0 Safari/605.1', 'Safari on macOS'],
  ['Mozilla/5.0 (X11; Linux x86_64; rv:130.0) Gecko/20100101 Firefox/130.0', 'Firefox on Linux'],
  ['Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/129.0 Mobile Safari/537.36', 'Chrome on Android'],
  ['node', 'A program'],
  ['', 'Unknown'],
])('%s is %s', (agent, name) => expect(deviceName(agent)).toBe(name));
