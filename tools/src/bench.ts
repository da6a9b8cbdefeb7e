import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { fillFields, printedOf } from '@scriptum/core/fill';
import { programValues, typeset } from '@scriptum/core/page';
import type { Folio } from '@scriptum/core/contract';
import { emptyLetter, type Letter } from '@scriptum/core/template';
import { queueDispatch, planDispatch } from '@scriptum/server/post/dispatch';
import { type Press } from '@scriptum/server/press/press';
import { Typesetter } from '@scriptum/server/press/typesetter';
import { startServer, type Running } from '@scriptum/server/server';
import { residentMemory } from '@scriptum/server/process/resident-memory';
import { megabytes } from '@scriptum/core/sentences';
import { readSettings, type Settings } from '@scriptum/server/settings';
import { School } from '@scriptum/server/store/entities/people';
import { createFolio, loadFolio } from '@scriptum/server/store/folios';
import { newId } from '@scriptum/server/store/id';
import { changeWriting, firstWriting } from '@scriptum/server/store/writings';
import { bringInBytes } from '@scriptum/server/roll/bring-in-bytes';
import nodemailer from 'nodemailer';
import { startMariaDb } from './mariadb.js';
import { benchCertificates } from './bench-certificates.js';
import { benchForms } from './bench-forms.js';
import { benchOrders } from './bench-orders.js';
import { measureMarks, type MarkTimes } from './bench-marks.js';
import { makeReports } from './bench-reports.js';
import { measureProof, type ProofTimes } from './bench-proof.js';
import { measureRegister } from './bench-register.js';
import { measureRoll, type RollTimes } from './bench-roll.js';
import { benchPost } from './bench-post.js';
import { benchPack, benchSchool, benchScreens, benchSorting, type BenchFolios } from './bench-trust.js';

const LETTERS = 500;
const FEW = 500;
const MANY = 5_000;
const REGISTERED = 10_000;
const ROUNDS = 9;

/** What is measured, for choosing among it. */
export const BENCH_PARTS = [
  'press',
  'memory',
  'post',
  'proof',
  'certificates',
  'forms',
  'orders',
  'roll',
  'marks',
  'register',
  'sorting',
  'pack',
  'school',
  'screens',
] as const;
export type BenchPart = (typeof BENCH_PARTS)[number];

/** Prints ratios that are measured side by side in one run. @returns the exit code. */
export async function bench(
  say: (line: string) => void,
  parts: readonly BenchPart[] = BENCH_PARTS,
): Promise<number> {
  const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-bench-'));
  const database = await startMariaDb({ folder });
  const sink = await startSink();
  const settings = readSettings({
    SCRIPTUM_PORT: '0',
    SCRIPTUM_DATA: folder,
    SCRIPTUM_LOG: 'silent',
    SCRIPTUM_SMTP_URL: `smtp://127.0.0.1:${sink.port}`,
  });
  const running = await startServer(settings, database.url);
  try {
    if (parts.includes('press')) await benchPress(say, running, settings, sink.port);
    if (parts.includes('memory')) memoryReport(say, await measureMemory(running));
    if (parts.includes('proof')) proofReport(say, await measureProof(running));
    if (parts.includes('certificates')) await benchCertificates(say, running);
    if (parts.includes('forms')) await benchForms(say, running);
    if (parts.includes('orders')) await benchOrders(say, running, sink.hear);
    if (parts.includes('roll')) rollReport(say, await measureRoll(running));
    if (parts.includes('register')) await benchRegister(say, running);
    const folios: BenchFolios = {
      makeFolio,
      pressWhole,
      pressBare: async (_, folio) => {
        const typesetter = new Typesetter({
          workers: settings.pressWorkers,
          timeLimit: settings.documentTime,
        });
        await warm(typesetter);
        return pressBare(typesetter, folio).finally(() => typesetter.close());
      },
    };
    if (parts.includes('post'))
      await benchPost(say, running, { ...folios, dispatch: (on, id) => dispatchAll(on, id) });
    if (parts.includes('sorting')) await benchSorting(say, running, folios);
    if (parts.includes('pack')) await benchPack(say, running, folios);
    if (parts.includes('school')) await benchSchool(say, running, folios);
    if (parts.includes('screens')) await benchScreens(say, running, folios);
    if (parts.includes('marks')) marksReport(say, measureMarks());
    return 0;
  } finally {
    await running.close();
    await sink.stop();
    await database.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

async function benchPress(
  say: (line: string) => void,
  running: Running,
  settings: Settings,
  port: number,
): Promise<void> {
  say(`${LETTERS} one-page letters, the middle of ${ROUNDS} rounds, on this machine:\n`);
  const typesetter = new Typesetter({ workers: settings.pressWorkers, timeLimit: settings.documentTime });
  await warm(typesetter);
  const rounds = {
    press: [] as number[],
    engine: [] as number[],
    dispatch: [] as number[],
    mailer: [] as number[],
  };
  for (let round = 0; round < ROUNDS; round++) {
    const folio = await makeFolio(running, LETTERS);
    rounds.engine.push(await pressBare(typesetter, folio));
    rounds.press.push(await pressWhole(running, folio));
    rounds.mailer.push(await mailBare(running, folio, port));
    rounds.dispatch.push(await dispatchWhole(running, folio));
  }
  await typesetter.close();
  report(say, 'papers a second', rounds.press, 'the bare engine', rounds.engine, 0.8);
  report(say, 'messages a second', rounds.dispatch, 'bare nodemailer', rounds.mailer, 0.75);
}

async function benchRegister(say: (line: string) => void, running: Running): Promise<void> {
  const folio = await makeFolio(running, REGISTERED);
  await pressWhole(running, folio);
  const times = await measureRegister(running, folio.id);
  const line = (what: string, time: number, aim?: number): void =>
    say(
      `${what} of ${REGISTERED.toLocaleString('en')} papers: ${time.toFixed(0)} ms${aim === undefined ? '' : ` (aim under ${aim} ms) ${time < aim ? 'reached' : 'NOT reached'}`}`,
    );
  line('register, what changed', times.nothing, 50);
  line('register, what changed, right after a save of the letter', times.afterSave, 50);
  line('register, all', times.whole);
  line('saving the letter', times.save);
  line('from the save until it is told which are out of date', times.compared);
  line('opening the folio', times.folio);
}

/** The most memory, in bytes, that server and children have in use together while so many reports are pressed. */
async function measureMemory(running: Running): Promise<{ few: number; many: number }> {
  const peakOf = async (letters: number): Promise<number> => {
    const folio = await makeReports(running, letters);
    let peak = 0;
    const look = setInterval(() => {
      const children = [...running.typesetter.processes, ...running.rolls.processes];
      const all = [process.pid, ...children].reduce((sum, pid) => sum + residentMemory(pid), 0);
      peak = Math.max(peak, all);
    }, 50);
    await pressWhole(running, folio);
    clearInterval(look);
    return peak;
  };
  return { few: await peakOf(FEW), many: await peakOf(MANY) };
}

function memoryReport(say: (line: string) => void, { few, many }: { few: number; many: number }): void {
  const ratio = many / few;
  say(
    `memory at the most, server and its processes: ${megabytes(few)} for ${FEW} reports of three pages with charts and pictures, ${megabytes(many)} for ${MANY.toLocaleString('en')}: ratio ${ratio.toFixed(2)} (aim at most 1.3) ${ratio <= 1.3 ? 'reached' : 'NOT reached'}`,
  );
}

/** The ratio of each round is of two figures taken right after each other, since the machine's pace changes. */
function report(
  say: (line: string) => void,
  what: string,
  ours: readonly number[],
  other: string,
  theirs: readonly number[],
  aim: number,
): void {
  const ratio = middle(ours.map((one, round) => one / theirs[round]!));
  say(
    `${what}: ${middle(ours).toFixed(0)}, ${other}: ${middle(theirs).toFixed(0)}, ratio ${ratio.toFixed(2)} (aim at least ${aim}) ${ratio >= aim ? 'reached' : 'NOT reached'}`,
  );
}

const middle = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;

function proofReport(say: (line: string) => void, times: ProofTimes): void {
  const p95 = times.server[Math.floor(times.server.length * 0.95)]!;
  say(
    `proof, server time: p95 ${p95.toFixed(0)} ms over ${times.server.length} (aim at most 100 ms) ${p95 <= 100 ? 'reached' : 'NOT reached'}`,
  );
  if (!times.browser) {
    say('proof in the browser: not measured, there is no Chromium');
    return;
  }
  const median = times.browser[Math.floor(times.browser.length / 2)]!;
  say(
    `key press to new picture: median ${median.toFixed(0)} ms, slowest ${times.browser.at(-1)!.toFixed(0)} ms over ${times.browser.length} (aim under 200 ms) ${median < 200 ? 'reached' : 'NOT reached'}`,
  );
}

function rollReport(say: (line: string) => void, times: RollTimes): void {
  const verdict = (reached: boolean): string => (reached ? 'reached' : 'NOT reached');
  const ratio = times.reading / times.bareReading;
  say(
    `reading 10,000 × 40 XLSX: ${(times.reading / 1000).toFixed(2)} s, the bare reader ${(times.bareReading / 1000).toFixed(2)} s: ${ratio.toFixed(2)} (aim at most 1.5) ${verdict(ratio <= 1.5)}`,
  );
  say(
    `joining 10,000 to 10,000: ${times.joining.toFixed(0)} ms (aim under 500 ms) ${verdict(times.joining < 500)}`,
  );
  if (!times.browser) return;
  const { gap, longTasks, edits } = times.browser;
  say(
    `while a file is read the page answers within ${gap.toFixed(0)} ms (aim 50 ms) ${verdict(gap <= 50)}; tasks over 200 ms: ${longTasks} (aim none) ${verdict(longTasks === 0)}`,
  );
  const median = edits[Math.floor(edits.length / 2)]!;
  say(
    `a cell edited in 10,000 rows shows after: median ${median.toFixed(0)} ms, slowest ${edits.at(-1)!.toFixed(0)} ms over ${edits.length} (aim under 50 ms) ${verdict(median < 50)}`,
  );
}

function marksReport(say: (line: string) => void, { first, all, bare, change }: MarkTimes): void {
  const verdict = (reached: boolean): string => (reached ? 'reached' : 'NOT reached');
  say(
    `10,000 entries × 30 pieces × 6 subjects, with bands and ranks: ${all.toFixed(0)} ms, the first time ${first.toFixed(0)} ms (aim under 1000 ms) ${verdict(all < 1000)}; the bare sums ${bare.toFixed(0)} ms: ratio ${(all / bare).toFixed(2)}`,
  );
  say(`after one mark changed: ${change.toFixed(0)} ms (aim under 50 ms) ${verdict(change < 50)}`);
}

const perSecond = (began: number, letters = LETTERS): number =>
  letters / ((performance.now() - began) / 1000);

/** A folio with a roll of so many and a one-page letter that shows every column. */
async function makeFolio(running: Running, letters: number): Promise<Folio> {
  const { database } = running;
  const school = await database.manager.findOneByOrFail(School, {});
  const rows = Array.from(
    { length: letters },
    (_, n) =>
      `Learner ${n},8${'ABC'[n % 3]},l${n}@families.example,${(n * 37) % 100},"Your drawings are to scale, and number ${n} held."`,
  );
  return database.transaction(async (manager) => {
    const folio = await createFolio(manager, school.id, 'Bench', new Date());
    await bringInBytes(manager, school.id, folio.id, {
      name: 'bench.csv',
      bytes: Buffer.from(`Name,Class,Email,Mark,Remark\n${rows.join('\n')}\n`),
    });
    const made = await loadFolio(manager, school.id, folio.id);
    const letter = benchLetter(made);
    const text = {
      type: 'doc' as const,
      content: [
        {
          type: 'paragraph' as const,
          content: [{ type: 'text' as const, text: 'The letter comes with this message.' }],
        },
      ],
    };
    const note = {
      ...firstWriting(made.writings, 'note').content,
      fields: letter.fields,
      subject: [{ type: 'text' as const, text: 'Feedback' }],
      body: text,
    };
    const kept = (kind: 'letter' | 'note') => ({ ...firstWriting(made.writings, kind), schoolId: school.id });
    await changeWriting(manager, kept('letter'), { content: letter, staffId: null });
    await changeWriting(manager, kept('note'), { content: note, staffId: null });
    return loadFolio(manager, school.id, folio.id);
  });
}

function benchLetter(folio: Folio): Letter {
  const fields = folio.roll.columns.map((column) => ({
    id: newId(),
    name: column.title,
    columnId: column.id,
  }));
  const field = (n: number) => ({ type: 'field' as const, attrs: { fieldId: fields[n]!.id } });
  const text = (words: string) => ({ type: 'text' as const, text: words });
  const filler =
    'The workshop is open on Tuesdays after school, and every learner may finish what was begun in the lesson. ';
  return {
    ...emptyLetter('Bench'),
    fields,
    body: {
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 1 }, content: [text('Feedback for '), field(0)] },
        {
          type: 'paragraph',
          content: [text('Class '), field(1), text(', mark '), field(3), text(', '), field(2)],
        },
        { type: 'paragraph', content: [field(4)] },
        ...Array.from({ length: 4 }, () => ({
          type: 'paragraph' as const,
          content: [text(filler.repeat(3))],
        })),
      ],
    },
  };
}

/** The engine alone: the same sources and values on as many threads, results thrown away. */
async function pressBare(typesetter: Typesetter, folio: Folio): Promise<number> {
  const letter = firstWriting(folio.writings, 'letter').content;
  const program = { ...typeset(letter), pictures: [] };
  const context = { columns: folio.roll.columns, language: letter.language, day: '2026-11-26' };
  const values = folio.roll.entries.map((entry) =>
    programValues(letter, printedOf(fillFields(letter.fields, entry, context))),
  );
  const at = new Date();
  const began = performance.now();
  let next = 0;
  const lane = async (): Promise<void> => {
    while (next < values.length) await typesetter.paper(program, values[next++]!, at);
  };
  await Promise.all(Array.from({ length: typesetter.workers + 1 }, lane));
  return perSecond(began, values.length);
}

/** The whole press: from rows to files and states in MariaDB. */
async function pressWhole(running: Running, folio: Folio): Promise<number> {
  const school = await running.database.manager.findOneByOrFail(School, {});
  const began = performance.now();
  const { run } = await (running.press as Press).start(school.id, folio.id, null);
  await running.press.ended(run!.id);
  return perSecond(began, folio.roll.entries.length);
}

async function warm(typesetter: Typesetter): Promise<void> {
  const program = { ...typeset(emptyLetter('Warm')), pictures: [] };
  await Promise.all(Array.from({ length: 20 }, () => typesetter.paper(program, '{}', new Date())));
}

/** nodemailer alone: the same texts and files, on as many connections, to the same sink. */
async function mailBare(running: Running, folio: Folio, port: number): Promise<number> {
  const rows: { bytes: Buffer; fileName: string }[] = await running.database.query(
    'SELECT p.fileName, b.bytes FROM paper p JOIN blob_file b ON b.schoolId = p.schoolId AND b.hash = p.blobHash WHERE p.folioId = ?',
    [folio.id],
  );
  const transport = nodemailer.createTransport({
    host: '127.0.0.1',
    port,
    pool: true,
    maxConnections: 4,
    maxMessages: Infinity,
  } as never);
  const began = performance.now();
  await Promise.all(
    rows.map(({ bytes, fileName }, n) =>
      transport.sendMail({
        from: 'office@thistlequay.example',
        to: `l${n}@families.example`,
        subject: 'Feedback',
        text: 'The letter comes with this message.',
        html: '<p>The letter comes with this message.</p>',
        attachments: [{ filename: fileName, content: bytes, contentType: 'application/pdf' }],
      }),
    ),
  );
  const result = perSecond(began);
  transport.close();
  return result;
}

const ADDRESS = 'http://127.0.0.1';

/** The whole dispatch, from somebody's word to states in MariaDB: planned once more, queued and sent. */
async function dispatchWhole(running: Running, folio: Folio): Promise<number> {
  return perSecond(await dispatchAll(running, folio.id));
}

/** @returns `performance.now()` when somebody, who had seen the plan, said that it may leave. */
async function dispatchAll(running: Running, folioId: string): Promise<number> {
  const school = await running.database.manager.findOneByOrFail(School, {});
  const { planId } = await planDispatch(running.database.manager, school.id, folioId, ADDRESS);
  const began = performance.now();
  await running.database.transaction((manager) =>
    queueDispatch(
      manager,
      school.id,
      folioId,
      { planId, again: false, corrected: false },
      { domain: 'thistlequay.example', address: ADDRESS, key: 'of the bench alone' },
    ),
  );
  running.outbox.wake();
  await running.outbox.idle();
  return began;
}

/** A mail server in a thread of its own that takes everything and keeps nothing. */
async function startSink(): Promise<{
  port: number;
  /** Tells of each address that a message arrives for. */
  hear: (heard: (address: string) => void) => void;
  stop: () => Promise<unknown>;
}> {
  const worker = new Worker(new URL('./bench-sink.js', import.meta.url));
  const port = await new Promise<number>((resolve) => worker.once('message', resolve));
  return { port, hear: (heard) => worker.on('message', heard), stop: () => worker.terminate() };
}
