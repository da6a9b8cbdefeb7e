import { emptyPlaced, Placed, type PlacedBox, type TextBox } from '@scriptum/core/template';
import type { SentencePart, SentencePiece } from '../../ui/sentence/sentence-piece';
import { arranged, withCondition } from './arranging';
import { boxSentence, type BoxSurroundings } from './box-sentence';
import { changeBox } from './change-box';
import { HANDLES, movingTo, sweptOver, type Drag } from './drag';
import { newBox, type Adding } from './new-box';
import { changePages, pagesLines } from './pages-sentence';
import { nudged, nudgeOf } from './place-keys';
import {
  aligned,
  copyOf,
  grouped,
  movedTo,
  nudgedBoxes,
  wholeGroups,
  withBox,
  withCopies,
  withGoingOn,
  withoutBoxes,
  withoutPage,
  withPage,
  withSteps,
} from './placed-edits';
import { PlacedHistory } from './placed-history';

let count = 0;
const newId = (): string => `n${++count}`;
const text = (id: string, x: number, y: number, more: Partial<TextBox> = {}): TextBox => ({
  kind: 'text',
  id,
  page: 0,
  x,
  y,
  width: 40,
  height: 10,
  body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: id }] }] },
  ...more,
});
const placedOf = (boxes: PlacedBox[], more: Partial<Placed> = {}): Placed => ({
  ...emptyPlaced('C'),
  boxes,
  ...more,
});
const ids = (...all: string[]): ReadonlySet<string> => new Set(all);
const around: BoxSurroundings = {
  colours: [['#22303C', 'Ink']],
  letterhead: null,
  font: { family: 'EB Garamond', size: 14 },
  goOnIn: () => [['z', 'Elsewhere']],
  linesThrough: () => null,
  fillable: false,
};
const said = (pieces: readonly SentencePiece[]): string =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text)).join('');
const change = (box: PlacedBox, id: string, value: string): PlacedBox =>
  changeBox(box, { id, value }, around);

describe('sentences', () => {
  const room = { page: 0, width: 297, height: 210 };
  const ADDINGS: Adding[] = [
    { what: 'text' },
    { what: 'field', fieldId: 'f' },
    { what: 'line' },
    { what: 'shape' },
    { what: 'tick' },
    { what: 'comb' },
    { what: 'letterhead' },
    { what: 'ornament', kind: 'laurel' },
    { what: 'ornament', kind: 'border' },
    { what: 'code', code: 'qr' },
    { what: 'picture', asset: 'a', name: 'Crest', ratio: 2 },
    { what: 'ownPicture', fieldId: 'f' },
    { what: 'signOff', signOffId: 's' },
  ];

  test.each(ADDINGS)(
    'a new box of each kind is one that can be saved, inside its page, and every part of its sentence takes each of its options: %j',
    (adding) => {
      const box = newBox(adding, room, 'b');
      expect(Placed.safeParse(placedOf([box])).success).toBe(true);
      expect(box.x).toBeGreaterThanOrEqual(0);
      expect(box.x + box.width).toBeLessThanOrEqual(297);
      const parts = boxSentence(box, around).filter(
        (piece): piece is SentencePart => typeof piece !== 'string',
      );
      expect(parts.length).toBeGreaterThan(0);
      for (const part of parts)
        for (const { value } of part.options) {
          // Needs a second place: see below.
          if (value === 'on') continue;
          const changed = change(box, part.id, value);
          expect(Placed.safeParse(placedOf([changed])).success).toBe(true);
          const now = boxSentence(changed, around).find(
            (piece) => typeof piece !== 'string' && piece.id === part.id,
          );
          // It stands in the sentence then, but where another kind of ornament has other parts.
          if (now && typeof now !== 'string') expect(now.value).toBe(value);
        }
    },
  );

  test('what is typed is taken where it makes sense, with units and a decimal comma, and nothing else', () => {
    const box = text('a', 0, 0);
    expect(change(box, 'size', '12,5 pt')).toMatchObject({ type: { size: 12.5 } });
    expect(change(box, 'size', '900')).toBe(box);
    expect(change(box, 'size', 'large')).toBe(box);
    expect(change(box, 'colour', '1d6b61')).toMatchObject({ type: { colour: '#1D6B61' } });
    expect(change(box, 'colour', 'green')).toBe(box);
    expect(change(box, 'least', '7')).toMatchObject({ long: { do: 'shrink', least: 7 } });
    const line = newBox({ what: 'line' }, room, 'l');
    expect(change(line, 'weight', '0.8 mm')).toMatchObject({ stroke: { weight: 0.8 } });
    expect(change(line, 'weight', '-3')).toBe(line);
  });

  test('a text says how it is set and what is done where it is long', () => {
    const box = text('a', 0, 0, {
      type: { size: 40 },
      long: { do: 'shrink', least: 18 },
      oneLine: true,
      align: 'center',
    });
    expect(said(boxSentence(box, around))).toBe(
      'Set in EB Garamond, as all at 40 pt in black, letters as they are, in the middle, at the top. It stays on one line; where there is too much it is set smaller, down to 18 pt.',
    );
    const lines = change(box, 'vertical', 'lines');
    expect(said(boxSentence(lines, around))).toContain(
      'on the lines of a form, the first 6 mm down and each 8 mm below it.',
    );
    expect(change(lines, 'vertical', 'top')).not.toHaveProperty('baseline');
  });

  test('pages are said in sentences too, and take sizes by name and by millimetres', () => {
    const placed = placedOf([text('a', 0, 0)]);
    const lines = pagesLines(placed, 0, [], [['en-GB', 'English (UK)']], [['w', 'Waves']], false);
    expect(said(lines[0]!.pieces)).toBe('The paper is A4, lying, with lines to keep to 20 mm from the edge.');
    const to = (id: string, value: string) => changePages(placed, 0, { id, value });
    expect(to('size', 'A5').page).toMatchObject({ width: 210, height: 148 });
    expect(to('size', '200 x 90').page).toMatchObject({ width: 200, height: 90 });
    expect(to('size', 'huge')).toEqual({});
    expect(to('size', '9000 x 90')).toEqual({});
    expect(to('lies', 'upright').page).toMatchObject({ width: 210, height: 297 });
    expect(to('lies', 'lying')).toEqual({});
    expect(to('colour', '#FDFCF8').pages).toEqual([{ colour: '#FDFCF8' }]);
    const waves = { ...placed, ...to('picture', 'w') };
    expect(waves.pages).toEqual([{ picture: { asset: 'w' } }]);
    const ground = (template: Placed, pictures: [string, string][]) =>
      said(pagesLines(template, 0, [], [], pictures, true)[1]!.pieces);
    expect(ground(waves, [['w', 'Waves']])).toBe('It has no colour and Waves under everything.');
    expect(ground(waves, [])).toBe('It has no colour and a picture that is gone under everything.');
    expect(changePages(waves, 0, { id: 'picture', value: '' }).pages).toEqual([{}]);
    const form = placedOf([], { pages: [{ ground: { asset: 'g', page: 0 } }], fillable: true });
    expect(ground(form, [])).toBe(
      'A page of a PDF lies under everything; the fields of its form can still be filled in.',
    );
    expect(changePages(form, 0, { id: 'fillable', value: 'no' })).toEqual({ fillable: undefined });
    expect(to('bleed', '3')).toEqual({ bleed: { width: 3, marks: true } });
    expect(to('bleed', '0')).toEqual({ bleed: undefined });
  });
});

describe('what is done with boxes', () => {
  const placed = placedOf([
    text('a', 10, 10),
    text('b', 60, 30, { group: 'g' }),
    text('c', 120, 50, { group: 'g', locked: true }),
  ]);
  const after = (part: Partial<Placed>): Placed => ({ ...placed, ...part });
  const find = (template: Placed, id: string): PlacedBox => template.boxes.find((box) => box.id === id)!;

  test('things without words are put under the others, texts behind them', () => {
    const ornament = newBox({ what: 'ornament', kind: 'seal' }, { page: 0, width: 297, height: 210 }, 'o');
    expect(after(withBox(placed, ornament)).boxes[0]!.id).toBe('o');
    expect(after(withBox(placed, text('d', 0, 0))).boxes.at(-1)!.id).toBe('d');
  });

  test('keys move by a millimetre or a tenth of it, and size with Shift; locked ones stay', () => {
    const key = (name: string, more: Partial<KeyboardEvent> = {}) =>
      nudgeOf({ key: name, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });
    expect(key('ArrowLeft')).toEqual({ what: 'move', x: -1, y: 0 });
    expect(key('ArrowDown', { ctrlKey: true })).toEqual({ what: 'move', x: 0, y: 0.1 });
    expect(key('ArrowDown', { shiftKey: true })).toEqual({ what: 'size', x: 0, y: 1 });
    expect(key('a')).toBeNull();
    expect(key('ArrowLeft', { altKey: true })).toBeNull();
    const moved = after(nudgedBoxes(placed, ids('a', 'c'), { what: 'move', x: 0.1, y: 0 }));
    expect([find(moved, 'a').x, find(moved, 'c').x]).toEqual([10.1, 120]);
    expect(nudged({ x: 0, y: 0, width: 0.5, height: 2 }, { what: 'size', x: -1, y: 0 }).width).toBe(0);
    expect(after(withoutBoxes(placed, ids('a', 'c'))).boxes.map(({ id }) => id)).toEqual(['b', 'c']);
  });

  test('groups are made, taken apart, and picked as a whole', () => {
    expect(wholeGroups(placed, ['b'])).toEqual(['b', 'c']);
    const made = after(grouped(placed, ids('a', 'b'), 'h'));
    expect([find(made, 'a').group, find(made, 'b').group]).toEqual(['h', 'h']);
    expect(find(after(grouped(placed, ids('b'), null)), 'b')).not.toHaveProperty('group');
    // One alone stands in line with the page.
    expect(find(after(aligned(placed, ids('a'), 'centre')), 'a').x).toBe(128.5);
  });

  test('copies stand a little off on their own page, and where they stood on another one; fields and parts come along', () => {
    const parts: Placed['parts'] = [{ id: 'p', if: { all: [] } as never }];
    const from = placedOf(
      [
        {
          ...text('a', 10, 10, { part: 'p' }),
          body: {
            type: 'doc',
            content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
          },
        },
      ],
      {
        fields: [
          { id: 'f', name: 'Name', columnId: 'c' },
          { id: 'x', name: 'Other', columnId: 'd' },
        ],
        parts,
      },
    );
    const copied = copyOf(from, ids('a'));
    expect(copied.fields.map(({ id }) => id)).toEqual(['f']);
    const here = withCopies(from, copied, 0, newId);
    expect(here.part.boxes!.at(-1)).toMatchObject({ x: 15, y: 15, page: 0 });
    const two = placedOf([], { pages: [{}, {}] });
    const there = withCopies(two, copied, 1, newId);
    expect(there.part.boxes!.at(-1)).toMatchObject({ x: 10, y: 10, page: 1, part: 'p' });
    expect(there.part.fields!.map(({ id }) => id)).toEqual(['f']);
    expect(there.part.parts).toEqual(parts);
    expect(new Set([...here.ids, ...there.ids]).size).toBe(2);
  });

  test('copies in steps, and where the mouse has put things', () => {
    const { part, ids: made } = withSteps(placed, ids('a'), 3, { x: 0, y: 12 }, newId);
    expect(part.boxes!.slice(-3).map(({ y }) => y)).toEqual([22, 34, 46]);
    expect(made).toHaveLength(3);
    const filling = placedOf([text('a', 0, 0, { fills: { field: 'name' } })]);
    expect(
      withSteps(filling, ids('a'), 1, { x: 0, y: 9 }, newId).part.boxes!.map(({ fills }) => fills),
    ).toEqual([{ field: 'name' }, undefined]);
    const moved = after(movedTo(placed, new Map([['a', { x: 1, y: 2, width: 3, height: 4 }]])));
    expect(find(moved, 'a')).toMatchObject({ x: 1, y: 2, width: 3, height: 4, kind: 'text' });
  });

  test('a text goes on in a new place, on the next page, and its copy in the copy of that place', () => {
    const own = placedOf([text('a', 10, 10, { oneLine: true, name: 'Remark' })]);
    const two = { ...own, ...withGoingOn(own, own.boxes[0] as TextBox, 'b') };
    expect(Placed.safeParse(two).success).toBe(true);
    expect(two.pages).toHaveLength(2);
    expect(two.boxes).toMatchObject([
      { id: 'a', page: 0, oneLine: false, long: { do: 'on', to: 'b' } },
      { id: 'b', page: 1, x: 10, width: 40 },
    ]);
    expect(two.boxes[1]).not.toHaveProperty('name');
    expect(said(boxSentence(two.boxes[0]!, around))).toContain(
      'goes on in another place, in a place that is gone.',
    );
    const elsewhere = change(two.boxes[0]!, 'to', 'z');
    expect(said(boxSentence(elsewhere, around))).toContain('goes on in another place, in Elsewhere.');
    // A page that there is already is taken.
    const three = withGoingOn({ ...own, pages: [{}, {}] }, own.boxes[0] as TextBox, 'b');
    expect(three.pages).toHaveLength(2);

    const [first, second] = withSteps(two, ids('a', 'b'), 1, { x: 0, y: 20 }, newId).part.boxes!.slice(2);
    expect(first).toMatchObject({ long: { do: 'on', to: second!.id } });
    const alone = withSteps(two, ids('a'), 1, { x: 0, y: 20 }, newId).part.boxes!.at(-1);
    expect(alone).not.toHaveProperty('long');
    // Without the place that it went on in it ends in its own.
    expect(withoutBoxes(two, ids('b')).boxes![0]).not.toHaveProperty('long');
    expect(withoutPage(two, 1).boxes![0]).not.toHaveProperty('long');
  });

  test('a box stands under a condition; its copies keep theirs', () => {
    const when = { all: [{ columnId: 'c', is: 'filled' as const }] };
    const one = { ...placed, ...withCondition(placed, placed.boxes[0]!, when as never, newId) };
    const id = one.boxes[0]!.part!;
    expect(one.parts).toEqual([{ id, if: when }]);
    const copy = { ...one, ...withSteps(one, ids('a'), 1, { x: 0, y: 9 }, newId).part };
    const other = { any: [] } as never;
    const two = { ...copy, ...withCondition(copy, copy.boxes[0]!, other, newId) };
    expect(two.parts).toHaveLength(2);
    expect(two.boxes.at(-1)!.part).toBe(id);
    expect(two.boxes[0]!.part).not.toBe(id);
    const three = { ...two, ...withCondition(two, two.boxes[0]!, when as never, newId) };
    expect(three.parts).toHaveLength(2);
    expect(withCondition(three, three.boxes[0]!, null, newId).boxes![0]).not.toHaveProperty('part');
    const { part, ids: made } = arranged(placed, ids('a'), { do: 'steps', times: 2, x: 0, y: 9 }, newId);
    expect(part.boxes).toHaveLength(5);
    expect(made).toHaveLength(2);
    expect(arranged(placed, ids('a'), { do: 'delete' }, newId).part.boxes).toHaveLength(2);
  });

  test('a page comes and goes with what stands on it; the last one stays', () => {
    const two = after(withPage(placed, 0, true, newId));
    expect(two.pages).toHaveLength(2);
    expect(two.boxes.map(({ page }) => page)).toEqual([0, 0, 0, 1, 1, 1]);
    const blank = { ...two, ...withPage(two, 0, false, newId) };
    expect(blank.boxes.map(({ page }) => page)).toEqual([0, 0, 0, 2, 2, 2]);
    const one = { ...two, ...withoutPage(two, 0) };
    expect(one.boxes.map(({ page }) => page)).toEqual([0, 0, 0]);
    expect(withoutPage(one, 0)).toEqual({});
    expect(Placed.safeParse(blank).success).toBe(true);
  });
});

describe('the mouse', () => {
  const placed = placedOf([text('a', 10, 10), text('b', 100, 60), { ...text('c', 200, 100), locked: true }]);
  const free = { free: true, straight: false };

  test('moves what is picked together, sizes by the handle, and keeps to an axis or to proportion', () => {
    const move: Drag = { kind: 'move', page: 0, from: { x: 12, y: 12 }, boxes: placed.boxes.slice(0, 2) };
    const moved = movingTo(move, { x: 17, y: 20 }, placed, free, { near: 2 });
    expect([...moved.rects]).toEqual([
      ['a', { x: 15, y: 18, width: 40, height: 10 }],
      ['b', { x: 105, y: 68, width: 40, height: 10 }],
    ]);
    const straight = movingTo(move, { x: 32, y: 15 }, placed, { free: true, straight: true }, { near: 2 });
    expect(straight.rects.get('a')).toMatchObject({ x: 30, y: 10 });
    const handle = HANDLES.find(({ name }) => name === 'se')!;
    const size: Drag = { kind: 'size', page: 0, from: { x: 50, y: 20 }, box: placed.boxes[0]!, handle };
    expect(movingTo(size, { x: 60, y: 25 }, placed, free, { near: 2 }).rects.get('a')).toEqual({
      x: 10,
      y: 10,
      width: 50,
      height: 15,
    });
    expect(
      movingTo(size, { x: 90, y: 20 }, placed, { free: true, straight: true }, { near: 2 }).rects.get('a'),
    ).toEqual({ x: 10, y: 10, width: 80, height: 20 });
    // Past the other edge nothing turns inside out.
    expect(movingTo(size, { x: -80, y: 20 }, placed, free, { near: 2 }).rects.get('a')!.width).toBe(1);
  });

  test('draws what is near to lines, unless a key says not to', () => {
    const move: Drag = { kind: 'move', page: 0, from: { x: 0, y: 0 }, boxes: [placed.boxes[0]!] };
    const to = (keys: typeof free) => movingTo(move, { x: 89, y: 20 }, placed, keys, { near: 2 });
    expect(to({ free: false, straight: false }).rects.get('a')!.x).toBe(100);
    expect(to({ free: false, straight: false }).guides.length).toBeGreaterThan(0);
    expect(to(free).rects.get('a')!.x).toBe(99);
  });

  test('sweeps over what it touches, but not over what is locked', () => {
    expect(sweptOver(placed, 0, { x: 0, y: 0, width: 297, height: 210 })).toEqual(['a', 'b']);
    expect(sweptOver(placed, 0, { x: 45, y: 15, width: 2, height: 2 })).toEqual(['a']);
    expect(sweptOver(placed, 1, { x: 0, y: 0, width: 297, height: 210 })).toEqual([]);
  });
});

describe('steps', () => {
  const [one, two, three, other] = ['1', '2', '3', 'x'].map((name) => emptyPlaced(name)) as [
    Placed,
    Placed,
    Placed,
    Placed,
  ];

  test('each is taken back and done again; what belongs together is one', () => {
    const history = new PlacedHistory();
    history.note('t', one, two, '', 0);
    history.note('t', two, three, '', 1);
    expect(history.can('t', three, 'undo')).toBe(true);
    expect(history.undo('t', three)).toBe(two);
    expect(history.undo('t', two)).toBe(one);
    expect(history.undo('t', one)).toBeNull();
    expect(history.redo('t', one)).toBe(two);
    history.note('t', two, three, 'keys', 10);
    history.note('t', three, other, 'keys', 300);
    expect(history.undo('t', other)).toBe(two);
    expect(history.can('t', two, 'redo')).toBe(true);
  });

  test('what somebody else changed in between is not taken back', () => {
    const history = new PlacedHistory();
    history.note('t', one, two, '', 0);
    expect(history.can('t', other, 'undo')).toBe(false);
    expect(history.undo('t', other)).toBeNull();
    history.note('t', other, three, '', 5);
    expect(history.undo('t', three)).toBe(other);
    expect(history.undo('t', other)).toBeNull();
  });
});
