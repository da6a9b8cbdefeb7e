// What must be there before anything compiled can run. Plain JavaScript, Node's own modules only: on a fresh machine
// there is nothing else yet.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
const state = path.join(root, '.scriptum');

/** Ends the program with a sentence. */
export function quit(message) {
  console.error(`\n${message}`);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  const fits = (major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major > 22;
  if (!fits)
    quit(
      `Scriptum needs Node.js 20.19 or newer; this is ${process.versions.node}. Install a newer Node.js and start again.`,
    );
}

function run(command, args, quiet = false, environment = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'inherit', 'inherit'],
    encoding: 'utf8',
    env: { ...process.env, ...environment },
    maxBuffer: 1 << 28,
  });
  return { ok: done.status === 0, said: `${done.stdout ?? ''}${done.stderr ?? ''}`.trim() };
}

const onPath = (name) =>
  [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/bin'].some(
    (folder) => folder && existsSync(path.join(folder, name)),
  );

/** Installs Debian packages of which a program is missing. */
export function installDebian(wanted) {
  const missing = Object.entries(wanted)
    .filter(([program]) => !onPath(program))
    .map(([, name]) => name);
  if (missing.length === 0) return;
  const list = [...new Set(missing)].join(' ');
  if (process.getuid?.() !== 0 || !onPath('apt-get')) {
    quit(
      `Scriptum needs ${list}. Run this once, then start again:\n  sudo apt-get update && sudo apt-get install -y ${list}`,
    );
  }
  console.log(`Installing ${list} with apt-get (a minute or two) …`);
  const quietly = { DEBIAN_FRONTEND: 'noninteractive' };
  const updated = run('apt-get', ['update', '-qq'], true, quietly);
  const done = run(
    'apt-get',
    ['install', '-y', '-qq', '--no-install-recommends', ...list.split(' ')],
    true,
    quietly,
  );
  if (!done.ok)
    quit(
      `apt-get could not install ${list}:\n${(updated.ok ? '' : `${updated.said}\n`) + done.said.split('\n').slice(-6).join('\n')}`,
    );
}

/** Installs the npm packages where they are missing or other than the lock file says. */
export function installPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = path.join(root, 'node_modules/.scriptum-installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing npm packages (one to three minutes) …');
  // Not npm ci: it refuses a lock file that lacks the optional packages of other systems, which not every registry has.
  const done = run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], true);
  if (!done.ok) {
    const said = done.said.split('\n').filter((line) => line.trim() && line.trim() !== 'npm error');
    quit(`npm could not install the packages:\n${said.slice(0, 10).join('\n')}`);
  }
  writeFileSync(stamp, lock);
}

/** Builds what changed since the last build. */
export function build({ web = true } = {}) {
  mkdirSync(state, { recursive: true });
  step(
    'server',
    ['core/src', 'server/src', 'tools/src', 'package-lock.json', 'tsconfig.base.json'],
    ['core/dist', 'server/dist', 'tools/dist'],
    () => run(process.execPath, ['node_modules/typescript/bin/tsc', '-b', 'core', 'server', 'tools'], true),
  );
  if (!web) return;
  step(
    'interface',
    [
      'core/src',
      'web/src',
      'web/families/src',
      'web/angular.json',
      'web/tsconfig.json',
      'web/.postcssrc.json',
      'package-lock.json',
    ],
    ['web/dist/browser/index.html', 'web/families/dist/browser/index.html'],
    () =>
      run('npm', ['run', 'build', '-w', 'web', '--silent'], true, {
        NG_CLI_ANALYTICS: 'false',
        NG_BUILD_MAX_WORKERS: '2',
      }),
  );
}

function step(name, sources, results, work) {
  const stamp = path.join(state, `built-${name}`);
  const now = fingerprint(sources);
  if (
    results.every((result) => existsSync(path.join(root, result))) &&
    existsSync(stamp) &&
    readFileSync(stamp, 'utf8') === now
  )
    return;
  console.log(`Building the ${name} (up to a minute) …`);
  const done = work();
  if (!done.ok) quit(`The ${name} could not be built:\n${done.said}`);
  writeFileSync(stamp, now);
}

/** Names, sizes and times of all the files below the paths. */
function fingerprint(places) {
  const hash = createHash('sha256');
  const visit = (place) => {
    const at = statSync(place, { throwIfNoEntry: false });
    if (!at) return;
    if (at.isDirectory()) for (const name of readdirSync(place).sort()) visit(path.join(place, name));
    else hash.update(`${place} ${at.size} ${at.mtimeMs}\n`);
  };
  for (const place of places) visit(path.join(root, place));
  return hash.digest('hex');
}
