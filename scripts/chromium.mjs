import fs from 'node:fs';
import { installDebian } from './postgres.mjs';

const CANDIDATES = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/** Path of a Chromium; installs Debian's where it may. */
export function findChromium() {
  const found = CANDIDATES.find((path) => path && fs.existsSync(path));
  if (found) return found;
  if (process.getuid?.() === 0 && fs.existsSync('/usr/bin/apt-get')) {
    installDebian(['chromium']);
    return '/usr/bin/chromium';
  }
  throw new Error(
    'Chromium is missing. Install it with “sudo apt-get install chromium”, or name one in the variable CHROMIUM.',
  );
}

/** Works without a graphics card and without a way to the internet. */
export const CHROMIUM_FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-accelerated-2d-canvas',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
];
