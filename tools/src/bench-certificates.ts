import type { Folio, FolioSummary, Proof } from '@scriptum/core/contract';
import { programValues, typeset } from '@scriptum/core/page';
import { emptyPlaced, writingsOf, type Placed, type TextBox } from '@scriptum/core/template';
import type { Running } from '@scriptum/server/server';
import { sha256 } from '@scriptum/server/store/blobs';
import { drawObject, PDFDocument, PDFName } from '@cantoo/pdf-lib';
import { megabytes } from '@scriptum/core/sentences';
import { joinFiles } from '@scriptum/server/ground/join-files';
import { prepareGround } from '@scriptum/server/ground/prepare-ground';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { signedIn } from './bench-client.js';
import { CHROMIUM, inChromium } from './bench-browser.js';

/** Boxes among which one is dragged, and seconds that the mouse goes to and fro with it. */
const AMONG = 60;
const FITTED = 40;

const middle = (times: readonly number[]): number => [...times].sort((a, b) => a - b)[times.length >> 1]!;
const verdict = (reached: boolean): string => (reached ? 'reached' : 'NOT reached');

/** Times certificates: proofs, texts that are fitted, the size of a file, and how smoothly a box is dragged among many. */
export async function benchCertificates(say: (line: string) => void, running: Running): Promise<void> {
  const call = await signedIn(running);
  const { folios } = await call<{ folios: readonly FolioSummary[] }>('GET', '/folios');
  const { id } = folios.find(({ title }) => title.startsWith('River'))!;
  const folio = await call<Folio>('GET', `/folios/${id}`);
  const award = writingsOf(folio.writings, 'placed').find(({ name }) => name.startsWith('Silver'))!.content;

  const proofs: number[] = [];
  for (let n = 0; n < 120; n++) {
    const entry = folio.roll.entries[n % folio.roll.entries.length]!;
    const template = { ...award, name: `Proof ${n}` };
    const { took } = await call<Proof>('POST', `/folios/${id}/proof`, { entryId: entry.id, template });
    if (n >= 20) proofs.push(took);
  }
  const p95 = proofs.sort((a, b) => a - b)[Math.floor(proofs.length * 0.95)]!;
  say(
    `proof of an engraved certificate: p95 ${p95.toFixed(0)} ms (aim at most 100 ms) ${verdict(p95 <= 100)}`,
  );

  const bytes = await sizeOf(running, award);
  say(
    `an engraved certificate: ${Math.round(bytes / 1000)} kB (aim under 150 kB) ${verdict(bytes < 150_000)}`,
  );

  for (const [what, words] of [
    ['that fit', 8],
    ['that all have to be set smaller', 40],
  ] as const) {
    const times: number[] = [];
    for (let n = 0; n < 30; n++) {
      const took = await proofOf(running, fitted(words), n);
      if (n >= 5) times.push(took);
    }
    const took = middle(times);
    say(
      `${FITTED} texts of several lines ${what}: ${took.toFixed(0)} ms (aim at most 50 ms) ${verdict(took <= 50)}`,
    );
  }

  const { pack, form, papers } = await packOver(running, 2_000_000);
  const most = form + papers * 10_000;
  say(
    `${papers} papers over a form of ${megabytes(form)} as one file to print: ${megabytes(pack)} (aim at most ${megabytes(most)}) ${verdict(pack <= most)}`,
  );

  if (!existsSync(CHROMIUM)) return say('dragging: not measured, there is no Chromium');
  const frames = await dragging(running, folio);
  const frame = middle(frames);
  say(
    `dragging among ${AMONG} boxes: median frame ${frame.toFixed(1)} ms over ${frames.length} (aim at most 17 ms) ${verdict(frame <= 17)}`,
  );
}

/** A print pack of papers over a form: bytes of it and of the form. */
async function packOver(
  { typesetter }: Running,
  bytes: number,
): Promise<{ pack: number; form: number; papers: number }> {
  const papers = 500;
  const document = await PDFDocument.create();
  const side = Math.round(Math.sqrt(bytes / 3));
  const image = document.context.stream(randomBytes(side * side * 3), {
    Type: 'XObject',
    Subtype: 'Image',
    Width: side,
    Height: side,
    ColorSpace: 'DeviceRGB',
    BitsPerComponent: 8,
  });
  const page = document.addPage([595.28, 841.89]);
  page.node.setXObject(PDFName.of('Scan'), document.context.register(image));
  page.pushOperators(drawObject('Scan'));
  const ready = await prepareGround(await document.save());
  if (!ready.ok) throw new Error(ready.problem.message);
  const ground = ready.value.bytes;
  const template: Placed = {
    ...emptyPlaced('Form'),
    pages: [{ size: { width: 210, height: 297 } }],
    fields: [{ id: 'f', name: 'Name', columnId: 'name' }],
    boxes: Array.from({ length: 10 }, (_, n) => box(n, 20, 20 + n * 20, `Learner ${n}`)),
  };
  const program = loaded(template);
  const laidOn = { grounds: ['form'], under: [{ ground: 0, page: 0 }], beyond: 0 };
  const files = [];
  for (let n = 0; n < papers; n++) {
    const set = await typesetter.paper(program, programValues(template, { f: `Learner ${n}` }), new Date(0));
    if (!set.ok) throw new Error(set.reason);
    files.push({ bytes: set.bytes, laidOn });
  }
  const pack = await joinFiles(files, new Map([['form', ground]]), false);
  return { pack: pack.bytes.length, form: ground.length, papers };
}

const box = (n: number, x: number, y: number, words: string): TextBox => ({
  kind: 'text',
  id: `b${n}`,
  page: 0,
  x,
  y,
  width: 32,
  height: 16,
  long: { do: 'shrink', least: 4 },
  body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: words }] }] },
});

const fitted = (words: number): Placed => ({
  ...emptyPlaced('Fitted'),
  boxes: Array.from({ length: FITTED }, (_, n) =>
    box(n, 10 + (n % 8) * 34, 10 + Math.floor(n / 8) * 36, `${n} ${'river survey '.repeat(words / 2)}`),
  ),
});

const loaded = (template: Placed) => {
  const program = typeset(template);
  const pictures = program.assets.map((asset) => {
    const bytes = Buffer.from(
      program.drawings[asset] ?? '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>',
    );
    return { hash: sha256(bytes), bytes };
  });
  return { ...program, pictures };
};

async function proofOf({ typesetter }: Running, template: Placed, n: number): Promise<number> {
  const values = programValues(template, { n: String(n) });
  const began = performance.now();
  const set = await typesetter.proof(loaded(template), values);
  if (!set.ok) throw new Error(set.reason);
  return performance.now() - began;
}

async function sizeOf({ typesetter }: Running, template: Placed): Promise<number> {
  const set = await typesetter.paper(loaded(template), programValues(template, {}), new Date(0));
  if (!set.ok) throw new Error(set.reason);
  return set.size;
}

/** Milliseconds between the frames in which a box is dragged by hand. */
async function dragging(running: Running, folio: Folio): Promise<number[]> {
  const call = await signedIn(running);
  const content: Placed = {
    ...emptyPlaced('Dragging'),
    boxes: Array.from({ length: AMONG }, (_, n) =>
      box(n, 8 + (n % 10) * 28, 8 + Math.floor(n / 10) * 33, `${n}`),
    ),
  };
  await call('POST', `/folios/${folio.id}/writings`, { kind: 'placed', content });
  return inChromium(running.url, async (page) => {
    await page.getByRole('link', { name: /River survey awards/ }).click();
    await page
      .getByRole('navigation', { name: 'Stations' })
      .getByRole('link', { name: 'Page', exact: true })
      .click();
    await page.getByRole('button', { name: /^Letters of this folio/ }).click();
    await page.getByRole('button', { name: 'Write on Dragging' }).click();
    await page.keyboard.press('Escape');
    const one = page.getByRole('region', { name: 'Paper' }).getByRole('button', { name: /^25: / });
    await one.waitFor();
    await page.waitForTimeout(1500);
    const { x, y } = (await one.boundingBox())!;
    await page.mouse.move(x + 8, y + 8);
    await page.mouse.down();
    await page.evaluate(`
      window.frames_ = [];
      let last = performance.now();
      const look = (now) => { window.frames_.push(now - last); last = now; window.looking = requestAnimationFrame(look); };
      window.looking = requestAnimationFrame(look);
    `);
    for (let n = 0; n < 200; n++)
      await page.mouse.move(x + 8 + Math.sin(n / 12) * 180, y + 8 + Math.cos(n / 9) * 120);
    const frames = (await page.evaluate('cancelAnimationFrame(window.looking), window.frames_')) as number[];
    await page.mouse.up();
    return frames.slice(5);
  });
}
