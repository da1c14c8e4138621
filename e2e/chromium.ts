// How the system's Chromium is started for tests and pictures.
import { execSync } from 'node:child_process';
import type { LaunchOptions } from '@playwright/test';

/** Launch options for Debian's Chromium, quiet on the network. */
export function chromiumOptions(): LaunchOptions {
  const executablePath =
    process.env.MERIDIEM_CHROMIUM ??
    execSync('command -v chromium || command -v chromium-browser || command -v google-chrome', {
      encoding: 'utf8',
      shell: '/bin/bash',
    }).trim();
  return {
    executablePath,
    headless: true,
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
}
