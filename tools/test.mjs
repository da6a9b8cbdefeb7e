// npm test: everything that must hold. Prints "N passed, N failed" as its last line.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { build, checkNode, installDebian, installPackages, root } from './prepare.mjs';

process.chdir(root);
checkNode();
installDebian({ mariadbd: 'mariadb-server', chromium: 'chromium', pdftotext: 'poppler-utils', qpdf: 'qpdf' });
installPackages();
build();

const reports = mkdtempSync(path.join(tmpdir(), 'scriptum-reports-'));
let passed = 0;
let failed = 0;

/** Runs a program of the project's own; its output is shown as it comes. */
function run(title, file, args, { cwd = root, env = {} } = {}) {
  console.log(`\n== ${title}`);
  const child = spawn(
    process.execPath,
    [...(env.flags ?? []), path.join(root, 'node_modules', file), ...args],
    { cwd, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env.set } },
  );
  return new Promise((resolve) => child.on('exit', (code) => resolve(code === 0)));
}

/** A check that has no tests of its own to count: it counts as one. */
async function check(title, file, args, options) {
  const ok = await run(title, file, args, options);
  if (ok) passed++;
  else failed++;
}

function count(ok, name, read) {
  try {
    const [good, bad] = read(JSON.parse(readFileSync(path.join(reports, name), 'utf8')));
    passed += good;
    failed += bad;
    if (!ok && bad === 0) failed++;
  } catch {
    failed++;
  }
}

await check('Lint', 'eslint/bin/eslint.js', ['.', '--max-warnings', '0']);
await check('Folders', 'dependency-cruiser/bin/dependency-cruise.mjs', [
  'core/src',
  'server/src',
  'web/src/app',
  '--config',
  '.dependency-cruiser.cjs',
]);
await check('Format', 'prettier/bin/prettier.cjs', ['--check', '--log-level', 'warn', '.']);
await check('Types of the tests', 'typescript/bin/tsc', ['-p', 'tsconfig.test.json']);
await check('Types of the interface’s tests', 'typescript/bin/tsc', [
  '-p',
  'web/tsconfig.spec.json',
  '--noEmit',
]);

const jest = await run(
  'Jest',
  'jest/bin/jest.js',
  [
    '--maxWorkers=2',
    '--testTimeout=60000',
    '--forceExit',
    '--json',
    `--outputFile=${path.join(reports, 'jest.json')}`,
  ],
  { env: { flags: ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning'] } },
);
count(jest, 'jest.json', (report) => [
  report.numPassedTests,
  report.numFailedTests + report.numRuntimeErrorTestSuites,
]);

const e2e = await run('Playwright', '@playwright/test/cli.js', ['test'], {
  cwd: path.join(root, 'e2e'),
  env: { set: { PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(reports, 'e2e.json') } },
});
count(e2e, 'e2e.json', ({ stats }) => [stats.expected + stats.flaky, stats.unexpected]);

rmSync(reports, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
