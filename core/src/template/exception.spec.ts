import fc from 'fast-check';
import type { Block, FlowText } from '../text/index.js';
import {
  emptyLetter,
  emptyPlaced,
  exceptionsOf,
  withException,
  type PlacedBox,
  type Template,
} from './index.js';

const paragraph = (text: string): Block => ({ type: 'paragraph', content: [{ type: 'text', text }] });
const textOf = (...lines: string[]): FlowText => ({ type: 'doc', content: lines.map(paragraph) });
const letter = (...lines: string[]): Template => ({ ...emptyLetter('Report'), body: textOf(...lines) });
const linesOf = (template: Template): string[] =>
  template.kind === 'letter'
    ? template.body.content.map((block) => JSON.stringify(block).match(/"text":"([^"]*)"/)?.[1] ?? '')
    : [];
const box = (id: string, more: Partial<PlacedBox> = {}): PlacedBox =>
  ({
    id,
    kind: 'text',
    page: 0,
    x: 10,
    y: 10,
    width: 50,
    height: 20,
    body: textOf(id),
    ...more,
  }) as PlacedBox;
const certificate = (...boxes: PlacedBox[]): Template => ({ ...emptyPlaced('Award'), boxes });
const boxesOf = (template: Template): readonly PlacedBox[] =>
  template.kind === 'placed' ? template.boxes : [];

test('a paragraph of one’s own stays, and the rest goes with the letter', () => {
  const exception = {
    base: letter('Dear', 'a', 'b', 'Yours'),
    own: letter('Dear', 'a', 'Well done!', 'b', 'Yours'),
  };
  const { content, touched } = withException(letter('Hello', 'a', 'b', 'Yours', 'PS'), exception);
  expect(linesOf(content)).toEqual(['Hello', 'a', 'Well done!', 'b', 'Yours', 'PS']);
  expect(touched).toBe(false);
});

test('where both changed the same paragraph, the learner’s own stays, and that is told', () => {
  const exception = { base: letter('a', 'b', 'c'), own: letter('a', 'mine', 'c') };
  const { content, touched } = withException(letter('a', 'theirs', 'd'), exception);
  expect(linesOf(content)).toContain('mine');
  expect(linesOf(content)).not.toContain('theirs');
  expect(touched).toBe(true);
});

test('boxes are put together one by one, and parts of one box too', () => {
  const exception = {
    base: certificate(box('a'), box('b'), box('c')),
    own: certificate(box('a', { x: 30 }), box('b'), box('own')),
  };
  const { content, touched } = withException(
    certificate(box('new'), box('a', { y: 40 }), box('b', { x: 99 }), box('c')),
    exception,
  );
  expect(boxesOf(content).map(({ id, x, y }) => [id, x, y])).toEqual([
    ['new', 10, 10],
    ['a', 30, 40],
    ['b', 99, 10],
    ['own', 10, 10],
  ]);
  expect(touched).toBe(false);
});

test('a box that is gone for everybody stays where it was changed for one, and that is told', () => {
  const exception = { base: certificate(box('a')), own: certificate(box('a', { x: 30 })) };
  const { content, touched } = withException(certificate(), exception);
  expect(boxesOf(content).map(({ id }) => id)).toEqual(['a']);
  expect(touched).toBe(true);
});

test('its name, and who gets it, are the letter’s own', () => {
  const exception = { base: letter('a'), own: { ...letter('b'), name: 'Old name', off: true as const } };
  const { content } = withException({ ...letter('a'), name: 'New name' }, exception);
  expect(content.name).toBe('New name');
  expect(content.off).toBeUndefined();
  expect(linesOf(content)).toEqual(['b']);
});

test('what nobody changed comes out as the letter is; what only one changed comes out as that one has it', () => {
  const lines = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 8 });
  fc.assert(
    fc.property(lines, lines, lines, (base, own, now) => {
      const [b, o, n] = [letter(...base), letter(...own), letter(...now)];
      expect(withException(n, { base: b, own: b }).content).toEqual(n);
      expect(withException(b, { base: b, own: o })).toEqual({ content: o, touched: false });
      const { content, touched } = withException(n, { base: b, own: o });
      // Whatever is put together is a letter; where nothing met, each line of both is of one of the two.
      expect(isLetter(content)).toBe(true);
      if (!touched) for (const line of linesOf(content)) expect([...own, ...now]).toContain(line);
    }),
  );
});

const isLetter = (content: Template): boolean =>
  content.kind === 'letter' && Array.isArray(content.body.content);

test('an exception whose letter is not among those that papers are made from makes none', () => {
  const content = {
    kind: 'exception' as const,
    entryId: 'e1',
    of: 'gone',
    base: letter('a'),
    own: letter('b'),
  };
  const writing = { id: 'x', kind: 'exception' as const, name: 'Ann', place: 0, version: 1, content };
  expect(exceptionsOf([writing], [])).toEqual([]);
});

test('what an editor wrote counts as what was saved, in whatever order its keys are', () => {
  const base = letter('a', 'b');
  const bare = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(bare)
      : typeof value === 'object' && value !== null
        ? Object.assign(
            Object.create(null) as object,
            Object.fromEntries(
              Object.entries(value)
                .reverse()
                .map(([key, one]) => [key, bare(one)]),
            ),
          )
        : value;
  const now = letter('a', 'theirs');
  expect(withException(now, { base, own: bare(base) as Template }).content).toEqual(now);
  const own = bare(letter('mine', 'b')) as Template;
  expect(linesOf(withException(now, { base, own }).content)).toEqual(['mine', 'theirs']);
});

test('attributes that an editor writes down though nothing is set are no change', () => {
  const base = letter('a', 'b', 'c');
  const written = (text: string): Block =>
    ({ type: 'paragraph', attrs: { textAlign: null }, content: [{ type: 'text', text }] }) as Block;
  const edited = (...lines: string[]): Template => ({
    ...emptyLetter('Report'),
    body: { type: 'doc', content: lines.map(written) },
  });
  const { content, touched } = withException(edited('new', 'b', 'c'), {
    base,
    own: edited('a', 'b', 'mine'),
  });
  expect([linesOf(content), touched]).toEqual([['new', 'b', 'mine'], false]);
});
