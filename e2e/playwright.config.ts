import { defineConfig } from '@playwright/test';
import { chromiumOptions } from './chromium.ts';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/browser',
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
