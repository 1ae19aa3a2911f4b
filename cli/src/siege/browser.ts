import { existsSync } from 'node:fs';
import { type Browser, chromium } from 'playwright-core';

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Debian's Chromium, as it is built for work without a window, where it is there; it starts and draws faster. */
const program = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find((path) => existsSync(path)) ?? '/usr/bin/chromium';

/** The browser, without a window and without a profile. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({ executablePath: program, args: flags });
}
