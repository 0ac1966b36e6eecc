// The browser that tests and pictures are made in.
import { existsSync } from 'node:fs';
import { installPackages } from './cluster.mjs';

/**
 * Debian's Chromium without its own windows, which would take as long to draw as what is tested. It is begun without the
 * script that Debian puts before it, which passes no signal on.
 */
export const chromium = '/usr/lib/chromium/chromium-headless-shell';

export function installBrowser() {
  installPackages(['chromium-headless-shell'], () => existsSync(chromium));
}
