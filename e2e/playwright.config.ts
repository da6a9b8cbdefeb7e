import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { defineConfig } from '@playwright/test';

// Chosen once; the workers inherit it.
process.env['E2E_PORT'] ??= String(
  await new Promise<number>((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  }),
);
// Where tests put files that are watched; the server takes it away.
process.env['E2E_WATCHED'] ??= path.join(tmpdir(), `scriptum-e2e-watched-${process.env['E2E_PORT']}`);
const url = `http://127.0.0.1:${process.env['E2E_PORT']}`;

export default defineConfig({
  testDir: '.',
  outputDir: fileURLToPath(new URL('../test-results', import.meta.url)),
  // All tests share one school.
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [
    ['list'],
    ['json', { outputFile: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ?? 'test-results/e2e.json' }],
  ],
  use: {
    baseURL: url,
    actionTimeout: 45_000,
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: `node serve.mjs ${process.env['E2E_PORT']}`,
    cwd: fileURLToPath(new URL('.', import.meta.url)),
    url: `${url}/api/health`,
    reuseExistingServer: false,
    // A slow disk takes a minute for a new database.
    timeout: 300_000,
    stdout: 'pipe',
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
  },
});
