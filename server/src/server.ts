import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino, type Logger } from 'pino';
import { plainError } from './http/plain-error.js';
import type { DataSource } from 'typeorm';
import { DEMO_ACCOUNT, loadDemo } from './demo/load-demo.js';
import { pressDemo } from './demo/press-demo.js';
import { watchDemo } from './demo/watch-demo.js';
import { Streams } from './http/streams.js';
import { DropOffs } from './drop/drop-off.js';
import { PracticeShelf } from './drop/practice-shelf.js';
import { FolioEvents } from './folio-events.js';
import { Leaving } from './ground/leaving.js';
import { DatabaseSlices } from './jobs/database-slices.js';
import { WatchedFiles } from './watch/watched-files.js';
import { Watching } from './watch/watching.js';
import { recordHappening } from './store/happenings.js';
import { SliceWorker } from './jobs/slice-worker.js';
import { AnswerNews } from './intake/answer-news.js';
import { Answers } from './intake/answers.js';
import { Copies } from './intake/copies.js';
import { Hooks } from './intake/hooks.js';
import { PracticeService } from './intake/practice-service.js';
import { AnswerLinks, Tickets } from './intake/tickets.js';
import { StandingOrders } from './order/standing-orders.js';
import { YesLinks } from './order/yes-links.js';
import { sweepUploads } from './intake/uploads.js';
import { Registers } from './register/registers.js';
import { SharedNews } from './shared-news.js';
import { createApp } from './http/app.js';
import { Accounts } from './post/accounts.js';
import { Enclosing } from './post/enclosing.js';
import { MailHosts } from './post/mail-hosts.js';
import type { Posting } from './post/dispatch.js';
import { Outbox } from './post/outbox.js';
import { takeReturn } from './post/returns.js';
import { ReturnBoxes } from './post/return-boxes.js';
import { Secrets } from './post/secrets.js';
import { Ways } from './post/ways.js';
import { Packs } from './pack/packs.js';
import { PracticePost } from './post/practice-post.js';
import { CheckPapers } from './press/check-papers.js';
import { Tries } from './post/tries.js';
import { setTry } from './press/set-try.js';
import { Press } from './press/press.js';
import { Rolls } from './tasks/rolls.js';
import { Typesetter } from './press/typesetter.js';
import type { Settings } from './settings.js';
import { School, Staff } from './store/entities/people.js';
import { openDatabase } from './store/database.js';
import { isDatabaseAway } from './store/database-away.js';
import { newId } from './store/id.js';
import { takeNamedLock } from './store/named-lock.js';
import { sweepLimits } from './store/limits.js';
import { DatabaseSessionStore } from './store/session-store.js';

/** A running Scriptum. */
export interface Running {
  /** Where the interface is, such as `http://127.0.0.1:4680`. */
  readonly url: string;
  readonly database: DataSource;
  readonly press: Press;
  readonly outbox: Outbox;
  readonly typesetter: Typesetter;
  readonly rolls: Rolls;
  /** The demo sign-in, where the demo school is there. */
  readonly demo: { email: string; password: string } | null;
  /** Finishes what is at hand and stops. */
  close(): Promise<void>;
}

/** Milliseconds between two looks for work that nobody does. */
const PRESS_POLL = 2_000;
const SLICE_POLL = 500;
const ORDER_POLL = 1_000;
const WATCH_POLL = 1_000;
const COPY_POLL = 15_000;
const OUTBOX_POLL = 3_000;
/** Milliseconds between two rounds in which sessions and counts that have run out are taken out. */
const SWEEP_EVERY = 10 * 60_000;

const root = fileURLToPath(new URL('../..', import.meta.url));

/** Starts all of Scriptum but MariaDB itself, whose URL it is given. */
export async function startServer(settings: Settings, databaseUrl: string): Promise<Running> {
  const log = pino({ level: settings.log, base: undefined, serializers: { err: plainError } });
  const database = await openDatabase(databaseUrl);
  const typesetter = new Typesetter({ workers: settings.pressWorkers, timeLimit: settings.documentTime });
  const leaving = new Leaving();
  const events = new FolioEvents();
  const practicePost = settings.smtpUrl ? null : new PracticePost(database, log);
  await practicePost?.listen(settings.practicePostPort);
  const secretKey = settings.secretKey ?? (await ownSecret(settings.dataFolder, 'mail-key'));
  const secrets = new Secrets(secretKey);
  const domain = settings.mailFrom.split('@')[1]!;
  // Known once it is listened to, where nothing else is set.
  let address = settings.address ?? '';
  const hosts = new MailHosts(settings.mailHosts);
  const builtIn = practicePost ? 'Practice post' : hostOf(settings.smtpUrl!);
  const authorities = settings.mailCa === undefined ? null : await readFile(settings.mailCa, 'utf8');
  const ways = new Ways(database, {
    builtIn: async (schoolId) =>
      settings.smtpUrl ? { url: settings.smtpUrl, version: 1 } : practicePost!.wayFor(schoolId),
    from: settings.mailFrom,
    hosts,
    secrets,
    authorities,
  });
  const accounts = new Accounts(database, {
    secrets,
    hosts,
    builtIn: { kind: practicePost ? 'practice' : 'server', host: builtIn, address: settings.mailFrom },
  });
  const enclosing = new Enclosing(leaving, secrets);
  const outbox = new Outbox(
    database,
    {
      ways,
      term: settings.claimTerm,
      poll: OUTBOX_POLL,
      enclosing,
    },
    events,
    log,
  );
  const returnBoxes = new ReturnBoxes(database, events, log, { hosts, secrets, authorities });
  if (practicePost)
    practicePost.returned = async (schoolId, report) => {
      const taken = await takeReturn(database, schoolId, report);
      if (taken.kind === 'marked') events.tell(taken.folioId, { kind: 'dispatch' });
    };
  const rolls = new Rolls({ databaseUrl });
  const news = new SharedNews(database, events, newId(), log);
  const queue = new DatabaseSlices(database, settings.claimTerm);
  const wake = (): void => worker.wake();
  const press: Press = new Press(database, queue, typesetter, events, log, {
    poll: PRESS_POLL,
    plan: (request) => rolls.do('planRun', request),
    ended: async (place) => {
      await orders.ended(place);
      await packs.growWhereDue(place);
      await drops.begin(place);
    },
    wake,
  });
  const tries = new Tries(database, outbox, {
    plan: (asked) => rolls.do('planTry', asked),
    set: (place, paper) => setTry({ database, programs: press.programs, typesetter, leaving }, place, paper),
    domain,
    address: () => address,
    enclosing,
    secrets,
  });
  const registers = new Registers(
    database,
    queue,
    (place) => rolls.do('comparePapers', place),
    events,
    log,
    wake,
    (place) => void orders.changed(place),
  );
  const checks = new CheckPapers(database, queue, typesetter, press.programs, events, log, {
    due: (place) => rolls.do('dueChecks', place),
    end: (place) => rolls.do('endChecks', place),
    wake,
  });
  const packs: Packs = new Packs(database, queue, events, log, {
    typesetter,
    programs: press.programs,
    leaving,
    plan: (request) => rolls.do('planPack', request),
    wake,
  });
  const posting = (): Posting => ({ domain, address, key: secretKey });
  const orders: StandingOrders = new StandingOrders(database, queue, outbox, events, log, {
    poll: ORDER_POLL,
    act: (place) => rolls.do('doOrders', { ...place, posting: posting() }),
    wake,
    domain,
  });
  const shelf = settings.demo ? new PracticeShelf(path.join(settings.dataFolder, 'practice-shelf')) : null;
  const drops: DropOffs = new DropOffs(database, queue, events, log, {
    leaving,
    root: settings.dropFolder,
    origins: settings.webDavOrigins,
    practice: (await shelf?.listen()) ?? null,
    wake,
  });
  const watchedFiles = new WatchedFiles({
    root: settings.watchFolder,
    origins: settings.watchOrigins,
    secrets,
  });
  const watching: Watching = new Watching(database, queue, events, log, {
    poll: WATCH_POLL,
    files: watchedFiles,
    take: (asked) => rolls.do('takeNewer', asked),
    took: (place, owed) => {
      events.tell(place.folioId, { kind: 'roll', desk: null });
      registers.changed(place.schoolId, place.folioId);
      if (owed) void orders.due(place);
      void recordHappening(database.manager, { ...place, staffId: null, kind: 'sheet-by-itself' }).catch(
        () => undefined,
      );
    },
    wake,
  });
  const editLinks = new AnswerLinks(secretKey, 'links to change answers');
  const paperLinks = new AnswerLinks(secretKey, 'links to own papers');
  const copies = new Copies(database, queue, outbox, log, {
    poll: COPY_POLL,
    wake,
    domain,
    address: () => address,
    editLinks,
    paperLinks,
  });
  const worker = new SliceWorker({
    queue,
    handlers: {
      press,
      compare: registers,
      check: checks,
      pack: packs,
      drop: drops,
      order: orders,
      watch: watching,
      copy: copies,
    },
    term: settings.claimTerm,
    poll: SLICE_POLL,
    log,
  });
  const sessions = new DatabaseSessionStore(database);
  const streams = new Streams(sessions);
  const { demo, isNew } = settings.demo
    ? await demoAccount(database, settings.watchFolder)
    : { demo: null, isNew: false };
  const version = (JSON.parse(await readFile(path.join(root, 'package.json'), 'utf8')) as { version: string })
    .version;
  const webFolder = path.join(root, 'web/dist/browser');
  const familiesFolder = path.join(root, 'web/families/dist/browser');
  const tickets = new Tickets(secretKey);
  const answerNews = new AnswerNews(events, {
    changed: (schoolId, folioId) => registers.changed(schoolId, folioId),
    owed: (place) => void orders.due(place),
    copy: () => void copies.look(),
  });
  const answers = new Answers(database, { edit: editLinks, paper: paperLinks }, answerNews);
  const hooks = new Hooks(database, secrets, answerNews, () => address);
  const app = createApp({
    database,
    events,
    typesetter,
    leaving,
    tries,
    registers,
    checks,
    packs,
    drops,
    rolls,
    sessions,
    streams,
    programs: press.programs,
    press,
    outbox,
    log,
    version,
    demo,
    accounts,
    ways,
    builtIn,
    practice: practicePost,
    practicePost: practicePost !== null,
    domain,
    posting,
    orders,
    yesLinks: new YesLinks(secretKey),
    hooks,
    watchedFiles,
    watching,
    practiceService: settings.demo ? new PracticeService() : null,
    enclosing,
    answers,
    tickets,
    editLinks,
    paperLinks,
    address: () => address,
    familiesFolder: existsSync(path.join(familiesFolder, 'index.html')) ? familiesFolder : null,
    returnBoxes,
    secrets,
    sessionSecret: settings.sessionSecret ?? (await ownSecret(settings.dataFolder, 'session-secret')),
    secureCookies: settings.secureCookies,
    trustProxy: settings.trustProxy,
    webFolder: existsSync(path.join(webFolder, 'index.html')) ? webFolder : null,
  });
  const http = createServer(app);
  await listen(http, settings.port, settings.host);
  const { port } = http.address() as AddressInfo;
  const url = `http://${settings.host.includes(':') ? `[${settings.host}]` : settings.host}:${port}`;
  address ||= url;
  news.open();
  typesetter.warm();
  rolls.warm();
  await worker.open();
  await press.open();
  await orders.open();
  await watching.open();
  await copies.open();
  await outbox.open();
  returnBoxes.open();
  // Beside what people do: nobody waits for it.
  if (isNew)
    void pressDemo(database, { press, packs, rolls, orders }).catch((error: unknown) => {
      if (!isDatabaseAway(error))
        log.error({ err: error }, 'the papers of the demo school could not be made');
    });
  const sweep = async (): Promise<void> => {
    await sessions.sweep();
    await sweepLimits(database);
    await sweepUploads(database.manager);
    await queue.sweep();
    await news.sweep();
    await packs.sweep();
    await drops.sweep();
  };
  // It is done again; that the database went away for a moment keeps no server from starting.
  await sweep().catch((error: unknown) => {
    if (!isDatabaseAway(error)) throw error;
  });
  const sweeping = setInterval(() => void sweep().catch(() => undefined), SWEEP_EVERY).unref();
  return {
    url,
    database,
    press,
    outbox,
    typesetter,
    rolls,
    demo,
    async close() {
      clearInterval(sweeping);
      await closeHttp(http, log);
      await news.close();
      press.close();
      await orders.close();
      await watching.close();
      await copies.close();
      await worker.close();
      await outbox.close();
      await returnBoxes.close();
      await practicePost?.close();
      await shelf?.close();
      await typesetter.close();
      await leaving.close();
      await rolls.close();
      await database.destroy();
    },
  };
}

/** The demo school, made where there is no school at all. */
async function demoAccount(
  database: DataSource,
  watchFolder: string | null,
): Promise<{ demo: { email: string; password: string } | null; isNew: boolean }> {
  let isNew = false;
  // One of several servers that start at the same time makes it.
  const lock = await takeNamedLock(database, 'demo', 60);
  try {
    if ((await database.manager.count(School)) === 0) {
      await loadDemo(database);
      if (watchFolder !== null) await watchDemo(database.manager, watchFolder);
      isNew = true;
    }
  } finally {
    await lock?.release();
  }
  const there = await database.manager.existsBy(Staff, { email: DEMO_ACCOUNT.email });
  return { demo: there ? DEMO_ACCOUNT : null, isNew };
}

/** The name of a mail server in its URL. */
const hostOf = (url: string): string => new URL(url).host;

/** A secret made at the first start and kept in the data folder, so that what was made with it outlives a restart. */
async function ownSecret(dataFolder: string, name: string): Promise<string> {
  const file = path.join(dataFolder, name);
  const kept = async (): Promise<string | null> =>
    readFile(file, 'utf8').then(
      (text) => text.trim() || null,
      () => null,
    );
  const there = await kept();
  if (there !== null) return there;
  await mkdir(dataFolder, { recursive: true });
  const secret = randomBytes(32).toString('hex');
  try {
    await writeFile(file, `${secret}\n`, { mode: 0o600, flag: 'wx' });
    return secret;
  } catch (error) {
    // Another server that starts at the same time has made one.
    const theirs = await kept();
    if (theirs !== null) return theirs;
    throw error;
  }
}

async function listen(http: Server, port: number, host: string): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    http.once('error', reject);
    http.listen(port, host, () => {
      http.off('error', reject);
      resolve();
    });
  });
}

async function closeHttp(http: Server, log: Logger): Promise<void> {
  await new Promise<void>((resolve) => {
    http.close(() => resolve());
    // Open event streams would keep it waiting for ever.
    http.closeAllConnections();
  });
  log.debug('the HTTP server is closed');
}
