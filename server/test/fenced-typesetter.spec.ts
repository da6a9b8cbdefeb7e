import type { Block } from '@scriptum/core/text';
import { programValues, typeset } from '@scriptum/core/page';
import { emptyLetter, type Letter } from '@scriptum/core/template';
import { Typesetter, type LoadedProgram } from '@scriptum/server/press/typesetter';
import { oddText, seeded } from '@scriptum/tools/trial/odd-texts';
import { pdfText } from './testing/pdf.js';
import { countPixels, pixelsOf, plainPng } from './testing/pixels.js';

/** A text that ends the typesetting engine: a combining sign of Devanagari Extended, without a letter, many times. */
const DEADLY = '\ua8e8'.repeat(3027);
const RED = [201, 17, 33] as const;

const letter: Letter = {
  ...emptyLetter('T'),
  fields: [{ id: 'f', name: 'F', columnId: 'c' }],
  body: {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
  },
};
const program: LoadedProgram = { ...typeset(letter), pictures: [] };
const at = new Date('2026-11-23T12:00:00Z');
const values = (text: string): string => programValues(letter, { f: text });
const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

describe('nothing of one document reaches another', () => {
  const drawing = (inner: string): Uint8Array =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="40">${inner}</svg>`,
    );
  const withPictures = (tenant: string, ...pictures: Uint8Array[]): LoadedProgram => {
    const content = pictures.map((_, n): Block => ({
      type: 'picture',
      attrs: { asset: `asset${n}`, width: 60, align: 'left', alt: '' },
    }));
    return {
      ...typeset({ ...letter, body: { type: 'doc', content } }),
      pictures: pictures.map((bytes, n) => ({ hash: `${tenant}${n}`, bytes })),
      tenant,
    };
  };
  const red = plainPng(RED);

  test.each([
    '1',
    '0',
    '../assets/1',
    './1',
    '/assets/1',
    '../../assets/1',
    'file:///assets/1',
    '1.svg',
    '1.png',
  ])('a drawing that asks for “%s” after another school’s letter shows nothing of it', async (target) => {
    const typesetter = new Typesetter({ workers: 1, timeLimit: 30_000 });
    try {
      const plain = drawing('<circle cx="20" cy="20" r="5" fill="green"/>');
      const theirs = await typesetter.paper(withPictures('theirs', plain, red, red), '{}', at);
      expect(theirs.ok && countPixels(pixelsOf(theirs.bytes), RED)).toBeGreaterThan(500);
      // As if it had come past the check at the door.
      const asking = drawing(
        `<image href="${target}" xlink:href="${target}" width="40" height="40"/><circle cx="20" cy="20" r="9" fill="blue"/>`,
      );
      const ours = await typesetter.paper(withPictures('ours', asking), '{}', at);
      if (ours.ok) expect(countPixels(pixelsOf(ours.bytes), RED)).toBe(0);
      else expect(ours.reason).toContain('could not set this paper');
      expect(typesetter.processes).toHaveLength(1);
    } finally {
      await typesetter.close();
    }
  });
});

test('a text that ends the engine fails that paper with a sentence; the others are made', async () => {
  const typesetter = new Typesetter({ workers: 2, timeLimit: 30_000 });
  try {
    const texts = ['one', DEADLY, 'two', DEADLY, 'three'];
    const set = await Promise.all(texts.map((text) => typesetter.paper(program, values(text), at)));
    expect(set.map(({ ok }) => ok)).toEqual([true, false, true, false, true]);
    expect(set[1]).toMatchObject({ reason: expect.stringContaining('broke down twice over this paper') });
    for (const n of [0, 2, 4]) expect(pdfText((set[n] as { bytes: Buffer }).bytes)).toContain(texts[n]);
    expect(await typesetter.proof(program, values(DEADLY))).toMatchObject({ ok: false });
    expect(await typesetter.proof(program, values('four'))).toMatchObject({ ok: true });
  } finally {
    await typesetter.close();
  }
});

test('past its time the work has really ended, and the next paper is made', async () => {
  const typesetter = new Typesetter({ workers: 1, timeLimit: 3_000, memoryLimit: 20e9 });
  try {
    expect(await typesetter.paper(program, values('warm'), at)).toMatchObject({ ok: true });
    const before = typesetter.processes;
    // The same long text many times over: it takes many times the limit on any machine.
    const content = Array.from({ length: 12 }, () => letter.body.content[0]!);
    const long = { ...typeset({ ...letter, body: { type: 'doc', content } }), pictures: [] };
    expect(await typesetter.paper(long, values('word '.repeat(190_000)), at)).toEqual({
      ok: false,
      reason: expect.stringContaining('longer than 3 seconds'),
    });
    await untilGone(before);
    expect(await typesetter.paper(program, values('next'), at)).toMatchObject({ ok: true });
  } finally {
    const last = typesetter.processes;
    await typesetter.close();
    expect(last.filter(isAlive)).toEqual([]);
  }
});

async function untilGone(processes: readonly number[]): Promise<void> {
  const deadline = Date.now() + 20_000;
  while (processes.some(isAlive)) {
    if (Date.now() > deadline) throw new Error('a process that was given up is still there');
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}

test('past its memory the work has ended', async () => {
  const typesetter = new Typesetter({ workers: 1, timeLimit: 60_000, memoryLimit: 50 * 1024 * 1024 });
  try {
    expect(await typesetter.paper(program, values('word '.repeat(190_000)), at)).toEqual({
      ok: false,
      reason: expect.stringContaining('more memory than a paper may have'),
    });
  } finally {
    await typesetter.close();
  }
});

test('a proof does not wait behind a press, and one school’s proofs leave room for another’s', async () => {
  const typesetter = new Typesetter({ workers: 1, timeLimit: 60_000 });
  try {
    let pressed = 0;
    const slow = values('word '.repeat(50_000));
    const press = Array.from({ length: 4 }, () => typesetter.paper(program, slow, at).then(() => pressed++));
    let theirs = 0;
    const proofs = Array.from({ length: 4 }, () =>
      typesetter.proof({ ...program, tenant: 'theirs' }, slow).then(() => theirs++),
    );
    expect(await typesetter.proof({ ...program, tenant: 'ours' }, values('mine'))).toMatchObject({
      ok: true,
    });
    expect(pressed).toBeLessThan(4);
    expect(theirs).toBeLessThan(4);
    await Promise.all([...press, ...proofs]);
  } finally {
    await typesetter.close();
  }
});

test('text without end, and a picture of it that no screen needs, are refused in sentences', async () => {
  const typesetter = new Typesetter({ workers: 1, timeLimit: 60_000 });
  try {
    expect(await typesetter.paper(program, values('x'.repeat(1_100_000)), at)).toMatchObject({
      reason: expect.stringContaining('at most 1,000 thousand can be set'),
    });
    const long = Array.from({ length: 60_000 }, (_, n) => `word${n}`).join(' ');
    expect(await typesetter.proof(program, values(long))).toMatchObject({
      reason: expect.stringContaining('too large to be shown'),
    });
  } finally {
    await typesetter.close();
  }
});

test('a hundred and fifty odd texts end no more than their own papers', async () => {
  const typesetter = new Typesetter({ workers: 2, timeLimit: 60_000 });
  const random = seeded(20261125);
  const texts = Array.from({ length: 150 }, () => oddText(random));
  try {
    const set = await Promise.all(texts.map((text) => typesetter.paper(program, values(text), at)));
    for (const one of set) if (!one.ok) expect(one.reason).toMatch(/broke down twice|could not set/);
    expect(set.filter(({ ok }) => ok).length).toBeGreaterThan(120);
  } finally {
    await typesetter.close();
  }
});
