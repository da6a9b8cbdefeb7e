import { bench } from './bench.js';

process.exitCode = await bench((line) => console.log(line));
