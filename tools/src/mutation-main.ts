import { parseArgs } from 'node:util';
import { fileURLToPath } from 'node:url';
import { MUTATED, mutation } from './mutation/mutation.js';

const { values, positionals } = parseArgs({
  options: { count: { type: 'string', default: '40' } },
  allowPositionals: true,
});
const root = fileURLToPath(new URL('../..', import.meta.url));
const folders = positionals.length > 0 ? positionals : MUTATED;
process.exitCode = await mutation(root, folders, Number(values.count), (line) => console.log(line));
