import { pressCommand } from './press.js';

process.exitCode = await pressCommand(process.argv.slice(2), (line) => console.log(line));
