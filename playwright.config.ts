import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  // The longest goes through six weeks of results: alone under two minutes, and more than four where the machine is busy.
  timeout: 480_000,
  expect: { timeout: 40_000 },
  retries: 0,
  workers: 2,
  fullyParallel: true,
  globalSetup: './e2e/server.ts',
  forbidOnly: true,
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    // Recording takes time: only a test that is tried again is recorded.
    trace: 'on-first-retry',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
