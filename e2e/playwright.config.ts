import { defineConfig } from '@playwright/test';
import { chromiumOptions } from './chromium.ts';

const PART = process.env.MERIDIEM_BROWSER_PART;
/** Files of the suite by their first letter: two parts that go side by side, and what is held to the clock, which has the
 * machine to itself. */
const PARTS: Readonly<Record<string, RegExp>> = {
  first: /\/[a-h]-[^/]+\.spec\.ts$/,
  second: /\/(?![a-h]-|k-speed)[^/]+\.spec\.ts$/,
  timed: /\/k-speed\.spec\.ts$/,
};

export default defineConfig({
  testDir: '.',
  ...(PART ? { testMatch: PARTS[PART] } : {}),
  outputDir: `../test-results/${PART ?? 'whole'}/browser`,
  globalSetup: './global-setup.ts',
  globalTeardown: './global-teardown.ts',
  workers: 1,
  fullyParallel: false,
  retries: 0,
  timeout: 180_000,
  expect: { timeout: 25_000 },
  reporter: [['list']],
  use: {
    launchOptions: chromiumOptions(),
    viewport: { width: 1280, height: 800 },
    actionTimeout: 45_000,
    screenshot: 'only-on-failure',
    trace: 'off',
  },
});
