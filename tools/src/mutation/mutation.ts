import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { cp, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { mutantsOf, sample, withMutant, type Mutant } from './mutants.js';

/** Folders of core whose tests are to find three of four small faults. */
export const MUTATED = [
  'column',
  'table',
  'roll',
  'sources',
  'tidying',
  'marks',
  'condition',
  'text',
  'fill',
  'begin',
  'chart',
  'paper',
] as const;

/** Copies of core that are worked on side by side. */
const SIDE_BY_SIDE = 2;
/** Milliseconds after which tests that do not end have found the fault. */
const LONGEST = 300_000;

/**
 * Puts small faults into copies of core, one at a time, and runs the tests of the fault's folder. Prints how many were
 * found, and each that was not.
 *
 * @param count faults in each folder.
 * @returns the exit code: 1 where fewer than three of four were found in a folder.
 */
export async function mutation(
  root: string,
  folders: readonly string[],
  count: number,
  say: (line: string) => void,
): Promise<number> {
  const copies = await Promise.all(Array.from({ length: SIDE_BY_SIDE }, () => copyOf(root)));
  let enough = true;
  try {
    if (!(await passes(copies[0]!, []))) {
      say('The tests of core do not pass as they are, so nothing can be said of faults.');
      return 1;
    }
    for (const folder of folders) {
      const mutants = sample(await mutantsIn(root, folder), count);
      const survivors: Mutant[] = [];
      let next = 0;
      await Promise.all(
        copies.map(async (copy) => {
          for (let mutant = mutants[next++]; mutant; mutant = mutants[next++])
            if (!(await isFound(copy, folder, mutant))) survivors.push(mutant);
        }),
      );
      const found = mutants.length - survivors.length;
      const share = mutants.length === 0 ? 1 : found / mutants.length;
      if (share < 0.75) enough = false;
      say(`${folder}: ${found} of ${mutants.length} found (${Math.round(share * 100)} %)`);
      for (const { file, line, before, after } of survivors)
        say(`  not found: ${file}:${line}  ${oneLine(before)}  →  ${oneLine(after)}`);
    }
  } finally {
    for (const copy of copies) await rm(copy, { recursive: true, force: true });
  }
  return enough ? 0 : 1;
}

const oneLine = (code: string): string => code.replace(/\s+/g, ' ').slice(0, 70);

/** A copy of core that its tests can be run in. */
async function copyOf(root: string): Promise<string> {
  const copy = await mkdtemp(path.join(tmpdir(), 'scriptum-mutation-'));
  await cp(path.join(root, 'core'), path.join(copy, 'core'), {
    recursive: true,
    filter: (source) => !/[\\/](node_modules|dist)$/.test(source),
  });
  for (const name of ['package.json', 'demo'])
    await cp(path.join(root, name), path.join(copy, name), { recursive: true });
  for (const name of ['node_modules', 'core/node_modules'])
    if (existsSync(path.join(root, name))) await symlink(path.join(root, name), path.join(copy, name));
  const { default: config } = (await import(path.join(root, 'jest.config.mjs'))) as {
    default: { projects: unknown[] };
  };
  await writeFile(path.join(copy, 'jest.config.json'), JSON.stringify(config.projects[0]));
  return copy;
}

async function mutantsIn(root: string, folder: string): Promise<Mutant[]> {
  const files = await readdir(path.join(root, 'core/src', folder), { recursive: true });
  const sources = files
    .filter(
      (file) => file.endsWith('.ts') && !file.endsWith('.spec.ts') && path.basename(file) !== 'index.ts',
    )
    .sort();
  const mutants: Mutant[] = [];
  for (const name of sources) {
    const file = path.join('core/src', folder, name);
    mutants.push(...mutantsOf(file, await readFile(path.join(root, file), 'utf8')));
  }
  return mutants;
}

async function isFound(copy: string, folder: string, mutant: Mutant): Promise<boolean> {
  const file = path.join(copy, mutant.file);
  const source = await readFile(file, 'utf8');
  await writeFile(file, withMutant(source, mutant));
  try {
    return !(await passes(copy, ['--passWithNoTests', `core/src/${folder}/`]));
  } finally {
    await writeFile(file, source);
  }
}

function passes(copy: string, which: readonly string[]): Promise<boolean> {
  return new Promise((resolve) => {
    const jest = spawn(
      process.execPath,
      [
        path.join(copy, 'node_modules/jest/bin/jest.js'),
        '--bail',
        '--silent',
        '--maxWorkers=1',
        '--forceExit',
        ...which,
      ],
      {
        cwd: copy,
        stdio: 'ignore',
        env: {
          ...process.env,
          NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning --preserve-symlinks',
        },
      },
    );
    const clock = setTimeout(() => jest.kill('SIGKILL'), LONGEST);
    jest.once('exit', (code) => {
      clearTimeout(clock);
      resolve(code === 0);
    });
  });
}
