import { defineConfig } from '@playwright/test';
import { chromiumOptions } from './chromium.ts';

const PART = process.env.MERIDIEM_BROWSER_PART;
/** Files of the suite by their first letter: two parts that go side by side, about as long as each other, and what is held to the clock,
 * which has the machine to itself. */
const PARTS: Readonly<Record<string, RegExp>> = {
  first: /\/[a-hno]-[^/]+\.spec\.ts$/,
  second: /\/(?![a-hno]-|k-speed)[^/]+\.spec\.ts$/,
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
  timeout: 600_000,
  // A machine that others use as well may be three times as slow for a while: late is not wrong.
  expect: { timeout: 75_000 },
  reporter: [['list']],
  use: {
    launchOptions: chromiumOptions(),
    viewport: { width: 1280, height: 800 },
    actionTimeout: 120_000,
    screenshot: 'only-on-failure',
    trace: 'off',
  },
});
