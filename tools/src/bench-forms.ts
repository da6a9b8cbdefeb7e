import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { OpenedForm } from '@scriptum/core/contract';
import { emptyForm, TICKET_BITS, workFor, type FormItem } from '@scriptum/core/form';
import { publishForm } from '@scriptum/server/intake/doors';
import type { Running } from '@scriptum/server/server';
import { School } from '@scriptum/server/store/entities/people';
import { EntryRow } from '@scriptum/server/store/entities/folio';
import { FormDoorRow } from '@scriptum/server/store/entities/intake';
import { createFolio } from '@scriptum/server/store/folios';
import { newId } from '@scriptum/server/store/id';
import { addWriting } from '@scriptum/server/store/writings';
import { CHROMIUM, launchChromium } from './bench-browser.js';

const QUESTIONS = 40;
const ANSWERS = 300;
const AT_ONCE = 30;
const LOOKS = 7;
/** Bytes of a kilobyte, as browsers tell what was transferred. */
const KILOBYTE = 1000;

const sha256 = (bytes: Uint8Array): Uint8Array => createHash('sha256').update(bytes).digest();

/** What a form takes on a phone, and how fast a whole year group's answers are kept. */
export async function benchForms(say: (line: string) => void, running: Running): Promise<void> {
  const { token, folioId } = await makeForm(running);
  const address = `${running.url}/f/${token}`;
  const page = await (await fetch(address)).text();
  let script = 0;
  for (const [, source] of page.matchAll(/<script[^>]*src="([^"]+)"/g)) {
    const bytes = await (await fetch(new URL(source!, `${running.url}/families/`))).arrayBuffer();
    script += gzipSync(Buffer.from(bytes)).length;
  }
  line(say, 'script of a form, compressed', script / KILOBYTE, 'kB', 120);
  if (existsSync(CHROMIUM))
    line(
      say,
      `a form of ${QUESTIONS} questions ready on a phone four times as slow`,
      await ready(address),
      'ms',
      1500,
    );
  const seconds = await answerAll(address);
  const kept = await running.database.manager.countBy(EntryRow, { folioId });
  line(say, `${ANSWERS} answers, ${AT_ONCE} at a time, kept (${kept} of them, each once)`, seconds, 's', 60);
}

function line(say: (line: string) => void, what: string, figure: number, unit: string, aim: number): void {
  const digits = figure < 10 ? 1 : 0;
  say(
    `${what}: ${figure.toFixed(digits)} ${unit} (aim at most ${aim}) ${figure <= aim ? 'reached' : 'NOT reached'}`,
  );
}

/** A form with questions of all the common kinds, published. */
async function makeForm({ database }: Running): Promise<{ token: string; folioId: string }> {
  return database.transaction(async (manager) => {
    const { id: schoolId } = await manager.findOneByOrFail(School, {});
    const { id: folioId } = await createFolio(manager, schoolId, 'Bench of forms', new Date());
    const place = { schoolId, folioId };
    const content = {
      ...emptyForm('Bench', 'en'),
      items: Array.from({ length: QUESTIONS }, (_, n) => question(n)),
    };
    const { id, version } = await addWriting(manager, place, { kind: 'form', content }, null);
    await publishForm(manager, { ...place, staffId: null }, id, version, '');
    const { token } = await manager.findOneByOrFail(FormDoorRow, { writingId: id });
    return { token, folioId };
  });
}

function question(n: number): FormItem {
  const asked = { id: newId(), label: { en: `Question ${n + 1}, with some words` }, required: false };
  const choices = ['First', 'Second', 'Third', 'Fourth'].map((words) => ({
    id: newId(),
    label: { en: words },
  }));
  const kinds: FormItem[] = [
    { kind: 'short', ...asked },
    { kind: 'one', ...asked, choices, other: true, look: 'list' },
    { kind: 'several', ...asked, choices, other: false },
    { kind: 'scale', ...asked, from: 1, to: 5 },
    { kind: 'long', ...asked },
  ];
  return kinds[n % kinds.length]!;
}

/** Milliseconds from the call until the form can be answered: the middle of several, each in a browser that has seen nothing. */
async function ready(address: string): Promise<number> {
  const browser = await launchChromium();
  const times: number[] = [];
  try {
    for (let n = 0; n < LOOKS; n++) {
      const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
      const page = await context.newPage();
      const session = await context.newCDPSession(page);
      await session.send('Emulation.setCPUThrottlingRate', { rate: 4 });
      const began = performance.now();
      await page.goto(address, { waitUntil: 'commit' });
      await page.getByRole('button', { name: 'Send the answers' }).waitFor();
      times.push(performance.now() - began);
      await context.close();
    }
  } finally {
    await browser.close();
  }
  return times.sort((a, b) => a - b)[Math.floor(LOOKS / 2)]!;
}

/** Seconds until all are kept; what machines work for before, while people write, is not counted. */
async function answerAll(address: string): Promise<number> {
  const paid: { ticket: string; nonce: string; version: number }[] = [];
  for (let n = 0; n < ANSWERS; n++) {
    const { ticket, version } = (await (await fetch(`${address}/form`)).json()) as OpenedForm;
    paid.push({
      ticket,
      version,
      nonce: workFor(ticket, { bits: TICKET_BITS, from: 0, tries: 10_000_000 }, sha256)!,
    });
  }
  // The last ticket has to be as old as the quickest person is.
  await new Promise((resolve) => setTimeout(resolve, 2_000));
  const headers = { 'content-type': 'application/json' };
  const began = performance.now();
  const person = async (): Promise<void> => {
    for (let one = paid.pop(); one; one = paid.pop()) {
      const body = JSON.stringify({ ...one, language: 'en', given: {} });
      const response = await fetch(`${address}/answers`, { method: 'POST', headers, body });
      if (!response.ok) throw new Error(await response.text());
      await response.arrayBuffer();
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, person));
  return (performance.now() - began) / 1000;
}
