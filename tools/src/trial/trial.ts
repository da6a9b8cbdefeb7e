import { answerAll, orderEach, publishForm } from './answers.js';
import { Findings } from './findings.js';
import { TrialSetup, pause } from './trial-setup.js';
import { oddText, seeded } from './odd-texts.js';
import { Person } from './person.js';
import type { ServerProcess } from './server-process.js';

/** What can be tried, and how often. */
export const TRIALS = [
  'press',
  'pack',
  'dispatch',
  'answers',
  'orders',
  'database',
  'servers',
  'texts',
] as const;
export type TrialName = (typeof TRIALS)[number];

const PAPERS = 300;
const MESSAGES = 300;
const ANSWERS = 300;
const random = seeded(7);
const between = (least: number, most: number): number => least + Math.floor(random() * (most - least));

const rowsOf = (count: number, round: string): [string, string, string][] =>
  Array.from({ length: count }, (_, n) => [
    `Learner ${n}`,
    `l${n}.${round}@families.example`,
    `Remark ${n}, and something to read for the family.`,
  ]);

/** Presses a folio, and lets something happen when so many papers are made; then looks at what came of it. */
async function pressTrial(
  setup: TrialSetup,
  person: Person,
  findings: Findings,
  strike: () => Promise<void>,
): Promise<void> {
  const { id } = await person.folio(rowsOf(PAPERS, `p${findings.rounds}`));
  await person.press(id);
  const pressed = "SELECT COUNT(*) AS n FROM paper WHERE folioId = ? AND state = 'pressed'";
  const enough = between(1, PAPERS - 60);
  await setup.until(pressed, [id], (n) => n >= enough);
  const began = performance.now();
  await strike();
  await setup.until(
    "SELECT COUNT(*) AS n FROM press_run WHERE folioId = ? AND state = 'running'",
    [id],
    (n) => n === 0,
  );
  findings.slowest = Math.max(findings.slowest, performance.now() - began);
  findings.rounds++;
  const whole = await setup.count(
    `SELECT COUNT(DISTINCT p.entryId) AS n FROM paper p JOIN blob_file b ON b.schoolId = p.schoolId AND b.hash = p.blobHash
     WHERE p.folioId = ? AND p.state = 'pressed'`,
    [id],
  );
  const rows = await setup.count('SELECT COUNT(*) AS n FROM paper WHERE folioId = ?', [id]);
  findings.lost += PAPERS - whole;
  findings.doubled += Math.max(0, rows - PAPERS);
  // All papers of all rounds have numbers of one row: each once, and none left out.
  const [given, last] = await Promise.all(
    ['COUNT(DISTINCT number)', 'MAX(CAST(number AS INT))'].map((what) =>
      setup.count(`SELECT ${what} AS n FROM paper WHERE number IS NOT NULL AND state = 'pressed'`, []),
    ),
  );
  const all = await setup.count(
    "SELECT COUNT(*) AS n FROM paper WHERE number IS NOT NULL AND state = 'pressed'",
    [],
  );
  findings.doubled += all - given!;
  findings.lost += last! - given!;
}

/** Asks for a pack of many papers, and lets something happen while it is made; then looks at what is in it. */
async function packTrial(
  setup: TrialSetup,
  person: Person,
  findings: Findings,
  folioId: string,
  strike: () => Promise<void>,
): Promise<void> {
  const { id } = await person.pack(folioId);
  await pause(between(0, 1200));
  const began = performance.now();
  await strike();
  await setup.until("SELECT COUNT(*) AS n FROM pack WHERE id = ? AND state = 'done'", [id], (n) => n === 1);
  findings.slowest = Math.max(findings.slowest, performance.now() - began);
  findings.rounds++;
  const [papers, pages, bytes, kept] = await Promise.all([
    setup.count('SELECT papers AS n FROM pack WHERE id = ?', [id]),
    setup.count('SELECT pages AS n FROM pack WHERE id = ?', [id]),
    setup.count('SELECT bytes AS n FROM pack WHERE id = ?', [id]),
    setup.count('SELECT SUM(LENGTH(bytes)) AS n FROM pack_part WHERE packId = ?', [id]),
  ]);
  findings.lost += PAPERS - Math.min(papers!, pages!);
  // Parts of another try would be more bytes than the file has.
  findings.doubled += Math.abs(kept! - bytes!);
}

/** Dispatches a folio, and lets something happen when so many messages have arrived; then looks at what came of it. */
async function dispatchTrial(
  setup: TrialSetup,
  person: Person,
  findings: Findings,
  strike: () => Promise<void>,
  messages = MESSAGES,
): Promise<void> {
  const { id } = await person.folio(rowsOf(messages, `d${findings.rounds}`));
  await person.press(id);
  await setup.until(
    "SELECT COUNT(*) AS n FROM press_run WHERE folioId = ? AND state = 'running'",
    [id],
    (n) => n === 0,
  );
  setup.sink.arrived.clear();
  await person.dispatch(id);
  const enough = between(1, messages - 30);
  while (setup.sink.arrived.size < enough) await pause(2);
  const began = performance.now();
  await strike();
  await setup.until(
    "SELECT COUNT(*) AS n FROM message WHERE folioId = ? AND state IN ('queued', 'sending', 'deferred')",
    [id],
    (n) => n === 0,
  );
  findings.slowest = Math.max(findings.slowest, performance.now() - began);
  findings.rounds++;
  const state = (name: string): Promise<number> =>
    setup.count('SELECT COUNT(*) AS n FROM message WHERE folioId = ? AND state = ?', [id, name]);
  const [sent, unconfirmed] = [await state('sent'), await state('unconfirmed')];
  const arrived = setup.sink.arrived.size;
  findings.unconfirmed += unconfirmed;
  findings.most = Math.max(findings.most, unconfirmed);
  findings.arrived += arrived - sent;
  findings.lost += messages - sent - unconfirmed + Math.max(0, sent - arrived);
  for (const times of setup.sink.arrived.values()) findings.doubled += times - 1;
}

/** A server that is killed and started again. */
class Killed {
  person!: Person;
  server!: ServerProcess;
  constructor(private readonly setup: TrialSetup) {}

  async start(): Promise<this> {
    this.server = await this.setup.server();
    this.person = await Person.ofDemo(this.server.url);
    return this;
  }

  strike = async (): Promise<void> => {
    await this.server.kill();
    await this.start();
  };

  stop(): Promise<unknown> {
    return this.server.stop();
  }
}

/** Answers a form, and kills the server so many times, at random among the answers. */
async function answersTrial(
  setup: TrialSetup,
  killed: Killed,
  path: string,
  times: number,
): Promise<Findings> {
  const findings = new Findings();
  // Kills come at random among the answers.
  const due = Array.from({ length: times }, () => between(1, ANSWERS - 1)).sort((a, b) => a - b);
  let count = 0;
  let all = false;
  const answering = answerAll(
    () => killed.server.url,
    path,
    ANSWERS,
    (kept) => (count = kept),
  ).finally(() => (all = true));
  for (const at of due) {
    while (count < at && !all) await pause(2);
    if (all) break;
    const began = performance.now();
    await killed.strike();
    findings.slowest = Math.max(findings.slowest, performance.now() - began);
    findings.rounds++;
  }
  await answering;
  return findings;
}

/** Each answer is an entry, once. */
async function expectEachOnce(setup: TrialSetup, folioId: string, findings: Findings): Promise<void> {
  const rows = await setup.count('SELECT COUNT(*) AS n FROM entry WHERE folioId = ?', [folioId]);
  const told = await setup.count(
    "SELECT COUNT(DISTINCT JSON_VALUE(`values`, '$.asked')) AS n FROM entry WHERE folioId = ?",
    [folioId],
  );
  findings.lost += ANSWERS - told;
  findings.doubled += rows - told;
}

const RUN: Readonly<Record<TrialName, (say: (line: string) => void, times: number) => Promise<void>>> = {
  async press(say, times) {
    const setup = await TrialSetup.make();
    const server = await new Killed(setup).start();
    const findings = new Findings();
    for (let n = 0; n < times; n++) await pressTrial(setup, server.person, findings, server.strike);
    await server.stop();
    await setup.close();
    say(findings.say('The server is killed in a press', `${PAPERS} papers each`));
  },

  async pack(say, times) {
    const setup = await TrialSetup.make();
    const server = await new Killed(setup).start();
    const findings = new Findings();
    const { id } = await server.person.folio(rowsOf(PAPERS, 'k'));
    await server.person.press(id);
    await setup.until(
      "SELECT COUNT(*) AS n FROM press_run WHERE folioId = ? AND state = 'running'",
      [id],
      (n) => n === 0,
    );
    for (let n = 0; n < times; n++) await packTrial(setup, server.person, findings, id, server.strike);
    await server.stop();
    await setup.close();
    say(findings.say('The server is killed while a pack is made', `${PAPERS} papers each`));
  },

  async dispatch(say, times) {
    const setup = await TrialSetup.make();
    const server = await new Killed(setup).start();
    const findings = new Findings();
    for (let n = 0; n < times; n++) await dispatchTrial(setup, server.person, findings, server.strike);
    await server.stop();
    await setup.close();
    say(findings.say('The server is killed in a dispatch', `${MESSAGES} messages each`));
  },

  async answers(say, times) {
    const setup = await TrialSetup.make();
    const killed = await new Killed(setup).start();
    const { folioId, path } = await publishForm(killed.person);
    const findings = await answersTrial(setup, killed, path, times);
    await expectEachOnce(setup, folioId, findings);
    await killed.stop();
    await setup.close();
    say(findings.say('The server is killed while a form is answered', `${ANSWERS} answers in all`));
  },

  async orders(say, times) {
    const setup = await TrialSetup.make();
    const killed = await new Killed(setup).start();
    const { folioId, path } = await publishForm(killed.person);
    await orderEach(killed.person, folioId);
    setup.sink.arrived.clear();
    const findings = await answersTrial(setup, killed, path, times);
    await setup.until(
      "SELECT COUNT(*) AS n FROM order_work WHERE folioId = ? AND state NOT IN ('sent', 'left')",
      [folioId],
      (n) => n === 0,
    );
    await setup.until(
      "SELECT COUNT(*) AS n FROM message WHERE folioId = ? AND state IN ('queued', 'sending', 'deferred')",
      [folioId],
      (n) => n === 0,
    );
    await expectEachOnce(setup, folioId, findings);
    const count = (query: string): Promise<number> => setup.count(query, [folioId]);
    const [papers, entries, sent, unconfirmed] = await Promise.all([
      count('SELECT COUNT(*) AS n FROM paper WHERE folioId = ?'),
      count('SELECT COUNT(DISTINCT entryId) AS n FROM paper WHERE folioId = ? AND blobHash IS NOT NULL'),
      count("SELECT COUNT(*) AS n FROM message WHERE folioId = ? AND state = 'sent'"),
      count("SELECT COUNT(*) AS n FROM message WHERE folioId = ? AND state = 'unconfirmed'"),
    ]);
    const arrived = setup.sink.arrived.size;
    findings.lost += ANSWERS - entries + (ANSWERS - sent - unconfirmed) + Math.max(0, sent - arrived);
    findings.doubled += papers - entries;
    findings.unconfirmed += unconfirmed;
    findings.most = unconfirmed;
    findings.arrived += arrived - sent;
    for (const times of setup.sink.arrived.values()) findings.doubled += times - 1;
    await killed.stop();
    await setup.close();
    say(
      findings.say(
        'The server is killed while a form is answered, and an order presses and sends a paper for each',
        `${ANSWERS} answers in all`,
      ),
    );
  },

  async database(say, times) {
    const setup = await TrialSetup.make();
    const server = await new Killed(setup).start();
    const strike = async (): Promise<void> => setup.killDatabase();
    const [papers, messages] = [new Findings(), new Findings()];
    for (let n = 0; n < Math.ceil(times / 4); n++) await pressTrial(setup, server.person, papers, strike);
    for (let n = 0; n < Math.ceil(times / 4); n++)
      await dispatchTrial(setup, server.person, messages, strike);
    await server.stop();
    await setup.close();
    say(papers.say('The database is killed in a press', `${PAPERS} papers each`));
    say(messages.say('The database is killed in a dispatch', `${MESSAGES} messages each`));
  },

  async servers(say, times) {
    const setup = await TrialSetup.make(['--wait-timeout=1', '--interactive-timeout=1']);
    const [both, dying] = [new Findings(), new Findings()];
    const stays = await new Killed(setup).start();
    for (let n = 0; n < Math.ceil(times / 4); n++) {
      const other = await setup.server();
      await dispatchTrial(setup, stays.person, both, () => pause(0), 300);
      await other.kill();
    }
    for (let n = 0; n < Math.ceil(times / 4); n++) {
      const dies = await new Killed(setup).start();
      await dispatchTrial(setup, dies.person, dying, async () => dies.stop().then(() => undefined));
    }
    await stays.stop();
    await setup.close();
    say(both.say('Two servers send, the database closes idle connections after 1 s', '300 messages each'));
    say(dying.say('Of two servers one ends in a dispatch, the other goes on', `${MESSAGES} messages each`));
  },

  async texts(say, times) {
    const setup = await TrialSetup.make();
    const server = await setup.server();
    const person = await Person.ofDemo(server.url);
    const perFolio = 250;
    let pressed = 0;
    let failed = 0;
    for (let n = 0; n < times; n++) {
      const { id } = await person.folio(
        Array.from({ length: perFolio }, (_, at) => [
          `Learner ${at}`,
          '',
          oddText(random).replaceAll('\0', ''),
        ]),
      );
      await person.press(id);
      await setup.until(
        "SELECT COUNT(*) AS n FROM press_run WHERE folioId = ? AND state = 'running'",
        [id],
        (m) => m === 0,
      );
      const state = (name: string): Promise<number> =>
        setup.count('SELECT COUNT(*) AS n FROM paper WHERE folioId = ? AND state = ?', [id, name]);
      pressed += await state('pressed');
      failed += await state('failed');
    }
    const alive = server.isRunning;
    await server.stop();
    await setup.close();
    say(
      `Odd texts: ${pressed + failed} papers asked for ${perFolio * times}, ${pressed} pressed, ${failed} failed with a sentence; the server ${alive ? 'ran on' : 'ENDED'}`,
    );
  },
};

/** Does trials of the asked kinds, so many of each, and says what was found. */
export async function trial(
  names: readonly TrialName[],
  times: number,
  say: (line: string) => void,
): Promise<void> {
  for (const name of names) await RUN[name](say, times);
}
