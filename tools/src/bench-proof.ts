import { writingsOf } from '@scriptum/core/template';
import { existsSync } from 'node:fs';
import type { Folio, Proof } from '@scriptum/core/contract';
import type { Running } from '@scriptum/server/server';
import { CHROMIUM, inChromium } from './bench-browser.js';
import { signedIn } from './bench-client.js';
import { makeReports } from './bench-reports.js';

/** Milliseconds, sorted. */
export interface ProofTimes {
  readonly server: number[];
  readonly browser: number[] | null;
}

/** Times proofs: of reports of three pages with four charts at the server, and from key press to new picture in Chromium. */
export async function measureProof(running: Running): Promise<ProofTimes> {
  const server = await serverTimes(running);
  return { server, browser: existsSync(CHROMIUM) ? await browserTimes(running) : null };
}

async function serverTimes(running: Running): Promise<number[]> {
  const call = await signedIn(running);
  const { id } = await makeReports(running, 180);
  const folio = await call<Folio>('GET', `/folios/${id}`);
  const times: number[] = [];
  for (let n = 0; n < 120; n++) {
    const entry = folio.roll.entries[n % folio.roll.entries.length]!;
    const letter = { ...writingsOf(folio.writings, 'letter')[0]!.content, name: `Proof ${n}` };
    const proof = await call<Proof>('POST', `/folios/${id}/proof`, { entryId: entry.id, template: letter });
    if (n >= 20) times.push(proof.took);
  }
  return times.sort((a, b) => a - b);
}

async function browserTimes({ url }: Running): Promise<number[]> {
  return inChromium(url, async (page) => {
    await page.getByRole('link', { name: /Bridge-design/ }).click();
    const paper = page.getByRole('img', { name: /Page 1 of the paper/ });
    await paper.waitFor();
    await page
      .getByRole('textbox', { name: 'Text of the letter' })
      .getByText('Three things to take along')
      .click();
    await page.keyboard.press('End');
    // Both moments are taken by the page's own clock.
    await page.evaluate(`
      window.bench = { pressed: 0, times: [] };
      document.addEventListener('keydown', () => (window.bench.pressed = performance.now()), { capture: true });
      document.querySelector('img.paper').addEventListener('load', () => window.bench.times.push(performance.now() - window.bench.pressed));
    `);
    for (let n = 1; n <= 25; n++) {
      await page.keyboard.press('x');
      while (((await page.evaluate('window.bench.times.length')) as number) < n)
        await page.waitForTimeout(20);
      await page.waitForTimeout(150);
    }
    const times = (await page.evaluate('window.bench.times')) as number[];
    return times.slice(5).sort((a, b) => a - b);
  });
}
