import type { Checks, Folio, Pack, PackList, Register, SchoolRegister } from '@scriptum/core/contract';
import { megabytes } from '@scriptum/core/sentences';
import { writingsOf, type Sorting } from '@scriptum/core/template';
import type { Running } from '@scriptum/server/server';
import { inChromium } from './bench-browser.js';
import { signedIn, type Call } from './bench-client.js';

/** What makes and presses the folios that are measured. */
export interface BenchFolios {
  readonly makeFolio: (running: Running, letters: number) => Promise<Folio>;
  /** @returns papers a second. */
  readonly pressWhole: (running: Running, folio: Folio) => Promise<number>;
  readonly pressBare: (running: Running, folio: Folio) => Promise<number>;
}

const PAPERS = 1_000;
const PACKED = 500;
const REGISTERED = 100_000;
const LARGE = 5_000;
const ROUNDS = 5;

const verdict = (reached: boolean): string => (reached ? 'reached' : 'NOT reached');
const middle = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1]!;
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Papers that are sorted among three templates, beside the bare engine; and what preflight of as many takes, beside pressing them. */
export async function benchSorting(
  say: (line: string) => void,
  running: Running,
  { makeFolio, pressWhole, pressBare }: BenchFolios,
): Promise<void> {
  const call = await signedIn(running);
  const ratios: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const folio = await makeFolio(running, PAPERS);
    await sortInThree(call, folio);
    const bare = await pressBare(running, folio);
    ratios.push((await pressWhole(running, folio)) / bare);
  }
  const sorted = middle(ratios);
  say(
    `${PAPERS.toLocaleString('en')} papers, sorted among three templates, of the bare engine: ${sorted.toFixed(2)} (aim at least 0.8) ${verdict(sorted >= 0.8)}`,
  );
  const [checks, again]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    const folio = await makeFolio(running, PAPERS);
    const whole = await checked(call, folio.id);
    const pressed = (PAPERS / (await pressWhole(running, folio))) * 1000;
    const remark = folio.roll.columns.at(-1)!.id;
    await call('PATCH', `/folios/${folio.id}/roll`, {
      cells: folio.roll.entries
        .slice(0, 10)
        .map(({ id }, n) => ({ entryId: id, columnId: remark, text: `Changed ${n}` })),
    });
    const after = await checked(call, folio.id);
    checks.push(whole / pressed);
    again.push(after / whole);
  }
  const [one, ten] = [middle(checks), middle(again)];
  say(
    `preflight of ${PAPERS.toLocaleString('en')} papers, of pressing them: ${one.toFixed(2)} (aim at most 1.3) ${verdict(one <= 1.3)}; after ten entries changed, of the whole: ${ten.toFixed(2)} (aim at most 0.2) ${verdict(ten <= 0.2)}`,
  );
}

/** Milliseconds until all papers of a folio are looked at. */
async function checked(call: Call, folioId: string): Promise<number> {
  const began = performance.now();
  for (;;) {
    const { going, done, total } = await call<Checks>('GET', `/folios/${folioId}/checks`);
    if (!going && done === total) return performance.now() - began;
    await pause(20);
  }
}

/** Two more letters, and rules that give each class its own. */
async function sortInThree(call: Call, folio: Folio): Promise<void> {
  const [letter] = writingsOf(folio.writings, 'letter');
  const ids = [letter!.id];
  for (const name of ['Second', 'Third']) {
    const content = { ...letter!.content, name };
    ids.push(
      (await call<{ id: string }>('POST', `/folios/${folio.id}/writings`, { kind: 'letter', content })).id,
    );
  }
  const klass = folio.roll.columns.find(({ title }) => title === 'Class')!.id;
  const sorting: Sorting = {
    rules: ['8A', '8B', null].map((one, n) => ({
      id: `rule${n}00000000`,
      if: one === null ? null : { columnId: klass, is: 'equal', values: [one] },
      then: { kind: 'gives', templates: [ids[n]!] },
    })) as Sorting['rules'],
  };
  const { id, version } = writingsOf(folio.writings, 'sorting')[0]!;
  await call('PUT', `/folios/${folio.id}/writings/${id}`, { kind: 'sorting', version, content: sorting });
}

/** A pack of one-page papers beside the sum of their bytes. */
export async function benchPack(
  say: (line: string) => void,
  running: Running,
  { makeFolio, pressWhole }: BenchFolios,
): Promise<void> {
  const call = await signedIn(running);
  const folio = await makeFolio(running, PACKED);
  await pressWhole(running, folio);
  const { papers } = await call<Register>('GET', `/folios/${folio.id}/papers`);
  const sum = papers.reduce((all, { bytes }) => all + (bytes ?? 0), 0);
  const began = performance.now();
  const asked = { kind: 'print', who: 'all', sort: [], apart: null, fronts: false, copies: null };
  const { id } = await call<Pack>('POST', `/folios/${folio.id}/packs`, asked);
  for (;;) {
    const pack = (await call<PackList>('GET', `/folios/${folio.id}/packs`)).packs.find(
      (one) => one.id === id,
    )!;
    if (pack.state === 'failed') throw new Error(pack.reason ?? 'The pack was not made.');
    if (pack.state === 'done') {
      const ratio = pack.bytes / sum;
      say(
        `a pack of ${PACKED} one-page papers: ${megabytes(pack.bytes)} of ${megabytes(sum)}: ${ratio.toFixed(2)} (aim at most 0.35) ${verdict(ratio <= 0.35)}, in ${((performance.now() - began) / 1000).toFixed(1)} s`,
      );
      return;
    }
    await pause(20);
  }
}

const SOUGHT = [
  '',
  'text=rhiannon',
  'text=family99',
  'text=099999',
  'text=nobody',
  'text=rhiannon%20family5&state=held',
  'klass=9ABC&text=zoe',
  'state=present',
  'from=2024-05-01&to=2024-06-01',
  'text=bench',
  'text=zoe%20bench',
  'state=void',
  'text=7abc%20amara',
];

/** The register of a school with very many papers, over HTTP. */
export async function benchSchool(
  say: (line: string) => void,
  running: Running,
  { makeFolio, pressWhole }: BenchFolios,
): Promise<void> {
  const call = await signedIn(running);
  const folio = await makeFolio(running, 10);
  await pressWhole(running, folio);
  await running.database.query(
    `INSERT INTO paper (id, schoolId, folioId, runId, entryId, templateId, templateVersion, position, learner, fileName, \`values\`,
       lookHash, state, pressedAt, klass, sought, number)
     SELECT CONCAT('zz', LPAD(s.seq, 14, '0')), p.schoolId, p.folioId, p.runId, CONCAT('e', LPAD(s.seq, 13, '0')), p.templateId, 1, s.seq,
       CONCAT(w.name, ' family', s.seq), CONCAT('f', s.seq, '.pdf'), p.\`values\`, SHA2(s.seq, 256),
       ELT(1 + s.seq % 4, 'pressed', 'dispatched', 'superseded', 'held'), DATE_ADD('2024-01-01', INTERVAL s.seq * 7 MINUTE),
       CONCAT(7 + s.seq % 6, 'ABC'), CONCAT(w.name, ' family', s.seq, ' ', 7 + s.seq % 6, 'abc tq-', LPAD(s.seq, 6, '0')),
       CONCAT('TQ-', LPAD(s.seq, 6, '0'))
     FROM seq_1_to_${REGISTERED} s
       JOIN (SELECT 0 AS n, 'amara' AS name UNION SELECT 1, 'lukasz' UNION SELECT 2, 'zoe' UNION SELECT 3, 'rhiannon') w ON w.n = s.seq % 4
       JOIN (SELECT * FROM paper WHERE folioId = ? LIMIT 1) p`,
    [folio.id],
  );
  await running.database.query('ANALYZE TABLE paper');
  const times: number[] = [];
  for (let round = 0; round < ROUNDS + 1; round++)
    for (const query of SOUGHT) {
      const began = performance.now();
      await call<SchoolRegister>('GET', `/register?${query}`);
      if (round > 0) times.push(performance.now() - began);
    }
  const p95 = times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;
  say(
    `a register of ${REGISTERED.toLocaleString('en')} papers searched: median ${middle(times).toFixed(0)} ms, p95 ${p95.toFixed(0)} ms (aim at most 150 ms) ${verdict(p95 <= 150)}`,
  );
}

/** What is waited for in each station of a folio, besides the ledge. */
const SCREENS = [
  ['page', 'img.paper'],
  ['roll', '[role=grid] canvas, [role=grid] [role=row] [role=gridcell]'],
  ['press', 'section'],
  ['register', 'table tbody td'],
  ['register/review', 'img.paper'],
] as const;

/** First screens of a folio with very many papers, in a browser that has been there before. */
export async function benchScreens(
  say: (line: string) => void,
  running: Running,
  { makeFolio, pressWhole }: BenchFolios,
): Promise<void> {
  const folio = await makeFolio(running, LARGE);
  await pressWhole(running, folio);
  await checked(await signedIn(running), folio.id);
  await inChromium(running.url, async (page) => {
    await page.getByRole('link', { name: 'Bench' }).first().waitFor();
    for (const [screen, shown] of SCREENS) {
      const times: number[] = [];
      for (let round = 0; round < ROUNDS + 1; round++) {
        await page.goto('about:blank');
        const began = performance.now();
        await page.goto(`${running.url}/folio/${folio.id}/${screen}`, { waitUntil: 'commit' });
        await page.getByRole('button', { name: `${LARGE.toLocaleString('en')} in all` }).waitFor();
        await page.locator(shown).first().waitFor();
        if (round > 0) times.push(performance.now() - began);
      }
      const time = middle(times) / 1000;
      say(
        `first screen of a folio with ${LARGE.toLocaleString('en')} papers, ${screen}: ${time.toFixed(2)} s (aim at most 2 s) ${verdict(time <= 2)}`,
      );
    }
  });
}
