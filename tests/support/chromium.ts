/**
 * How Debian's Chromium is begun, by whatever drives it: without windows of its own, and it asks nobody outside for anything.
 */
export const chromiumOptions = {
  executablePath: '/usr/lib/chromium/chromium-headless-shell',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
