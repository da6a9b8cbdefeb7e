import { existsSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { applyJoin, planJoin, type JoinSpec } from '@scriptum/core/sources';
import { makeRoll } from '@scriptum/core/roll';
import type { Sheet } from '@scriptum/core/table';
import { openSheetFile, writeSheet } from '@scriptum/core/workbook';
import type { Running } from '@scriptum/server/server';
import { newId } from '@scriptum/server/store/id';
import { read } from '@e965/xlsx';
import { CHROMIUM, inChromium } from './bench-browser.js';

const ROWS = 10_000;
const COLUMNS = 40;
export interface RollTimes {
  /** Milliseconds, the best of three, side by side. */
  readonly reading: number;
  readonly bareReading: number;
  readonly joining: number;
  readonly browser: {
    /** The longest time that the page did not answer while the file was read. */
    readonly gap: number;
    /** Tasks over 200 ms while the file was read. */
    readonly longTasks: number;
    /** From Enter to the picture with the new cell, sorted. */
    readonly edits: readonly number[];
  } | null;
}

/** Times what a large roll needs: reading a workbook, joining two sheets, reading and editing in Chromium. */
export async function measureRoll(running: Running): Promise<RollTimes> {
  const file = largeWorkbook();
  const reading: number[] = [];
  const bare: number[] = [];
  for (let round = 0; round < 3; round++) {
    bare.push(timed(() => read(file, { type: 'array', dense: true })));
    reading.push(timed(() => layOut(file)));
  }
  return {
    reading: Math.min(...reading),
    bareReading: Math.min(...bare),
    joining: Math.min(...[1, 2, 3].map(() => joinOnce(file))),
    browser: existsSync(CHROMIUM) ? await inBrowser(running, file) : null,
  };
}

function timed(work: () => unknown): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}

function largeWorkbook(): Uint8Array {
  const given = ['Amara', 'Łukasz', 'Wilhelmina', 'Priya', 'Seán'];
  const titles = ['Student number', 'Name', 'Class', 'Guardian email'];
  while (titles.length < COLUMNS) titles.push(`Mark ${titles.length - 3}`);
  const rows = Array.from({ length: ROWS }, (_, n) =>
    titles.map((_title, column) => {
      if (column === 0) return { text: `S${100_000 + n}` };
      if (column === 1) return { text: `${given[n % given.length]} Learner ${n}` };
      if (column === 2) return { text: `8${'ABC'[n % 3]}` };
      if (column === 3) return { text: `family${n}@families.example` };
      const mark = (n * 7 + column * 13) % 101;
      return { text: String(mark), number: mark };
    }),
  );
  return writeSheet('xlsx', 'Roll', titles, rows);
}

function layOut(file: Uint8Array): Sheet {
  const opened = openSheetFile(file);
  const laidOut = opened.ok ? opened.value.layOut({}, newId) : opened;
  if (!laidOut.ok) throw new Error(laidOut.problem.message);
  return laidOut.value.sheet;
}

/** Joins the sheet to a roll of itself in which one key in fifty is written otherwise. */
function joinOnce(file: Uint8Array): number {
  const sheet = layOut(file);
  const roll = makeRoll(sheet, newId);
  const other: Sheet = {
    ...sheet,
    rows: sheet.rows.map((row, n) => (n % 50 === 0 ? [row[0]!, `${row[1]}x`, ...row.slice(2)] : row)),
  };
  const spec: JoinSpec = {
    left: [sheet.columns[1]!.id, sheet.columns[2]!.id],
    right: [sheet.columns[1]!.title, sheet.columns[2]!.title],
    near: [],
    shape: 'columns',
    summaries: [],
  };
  return timed(() =>
    applyJoin(roll, other, spec, planJoin(roll, other, spec), { id: 'other', name: 'Other' }),
  );
}

async function inBrowser({ url }: Running, file: Uint8Array): Promise<NonNullable<RollTimes['browser']>> {
  return inChromium(url, async (page) => {
    await page.getByLabel('Title').fill('Large roll');
    await page.getByRole('button', { name: 'Start without a sheet' }).click();
    await page.getByRole('heading', { name: 'Who is this for?' }).waitFor();
    await page.evaluate(WATCH_GAPS);
    // By its path: bytes handed over would be decoded in the page, and counted.
    const folder = await mkdtemp(path.join(tmpdir(), 'scriptum-bench-'));
    const drop = path.join(folder, 'large.xlsx');
    await writeFile(drop, file);
    await page.getByLabel('File with a table').setInputFiles(drop);
    const make = page.getByRole('button', { name: /^Make the roll/ });
    await make.waitFor({ timeout: 120_000 });
    const { gap, longTasks } = (await page.evaluate('window.gaps')) as { gap: number; longTasks: number };
    await rm(folder, { recursive: true });
    await make.click();
    await page.getByRole('grid').waitFor({ timeout: 120_000 });
    await page.waitForTimeout(5000);
    await page.getByRole('grid').focus();
    await page.keyboard.press('ArrowRight');
    const edits: number[] = [];
    for (let n = 0; n < 15; n++) {
      await page.keyboard.type(`Name ${n}`);
      edits.push((await page.evaluate(TIME_ENTER)) as number);
      await page.waitForTimeout(1200);
    }
    return { gap, longTasks, edits: edits.slice(5).sort((a, b) => a - b) };
  });
}

/** Notes the longest time between two timer ticks of the page, and tasks over 200 ms. Runs in the page. */
const WATCH_GAPS = `
  window.gaps = { gap: 0, longTasks: 0 };
  let last = performance.now();
  setInterval(() => {
    const now = performance.now();
    window.gaps.gap = Math.max(window.gaps.gap, now - last - 10);
    last = now;
  }, 10);
  new PerformanceObserver((list) => {
    window.gaps.longTasks += list.getEntries().filter(({ duration }) => duration > 200).length;
  }).observe({ entryTypes: ['longtask'] });
`;

/** From Enter in the box to the next picture on screen; a message is handled after the frame has been drawn. */
const TIME_ENTER = `new Promise((resolve) => {
  const box = document.querySelector('[role=grid] textarea');
  const began = performance.now();
  box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
  requestAnimationFrame(() => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => resolve(performance.now() - began);
    channel.port2.postMessage(0);
  });
})`;
