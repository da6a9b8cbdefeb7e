import { trial, TRIALS, type TrialName } from './trial/trial.js';

// npm run trial -- [20] [press] [pack] [dispatch] [answers] [orders] [database] [servers] [texts]
const args = process.argv.slice(2);
const times = Number(args.find((one) => /^\d+$/.test(one)) ?? 20);
const asked = args.filter((one): one is TrialName => (TRIALS as readonly string[]).includes(one));
await trial(asked.length > 0 ? asked : TRIALS, times, (line) => console.log(line));
