import { bench, BENCH_PARTS, type BenchPart } from './bench.js';

const asked = process.argv.slice(2);
const isPart = (name: string): name is BenchPart => (BENCH_PARTS as readonly string[]).includes(name);
const wrong = asked.filter((name) => !isPart(name));
if (wrong.length > 0) {
  console.error(`There is no part “${wrong[0]}”. The parts are: ${BENCH_PARTS.join(', ')}.`);
  process.exitCode = 2;
} else {
  process.exitCode = await bench(
    (line) => console.log(line),
    asked.length > 0 ? asked.filter(isPart) : BENCH_PARTS,
  );
}
