import type { Roll } from '../roll/index.js';
import { emptyFiling, emptyPlaced, type Placed, type PlacedBox } from '../template/index.js';
import { fitFindings, misfit, preflight } from './index.js';

const roll: Roll = {
  columns: [{ id: 'n', title: 'Name', role: 'name' } as Roll['columns'][number]],
  entries: ['Bo', 'Wilhelmina', 'Zoë'].map((n, position) => ({
    id: `e${position}`,
    position,
    values: { n },
  })),
};
const text = (id: string, x = 20, more: object = {}): PlacedBox => ({
  kind: 'text',
  id,
  page: 0,
  x,
  y: 20,
  width: 60,
  height: 10,
  body: {
    type: 'doc',
    content: [{ type: 'paragraph', content: [{ type: 'field', attrs: { fieldId: 'f' } }] }],
  },
  ...more,
});
const code: PlacedBox = {
  kind: 'code',
  id: 'q',
  name: 'Number',
  page: 0,
  x: 20,
  y: 60,
  width: 20,
  height: 20,
  code: 'code128',
  colour: '#000000',
  line: [],
};
const placedOf = (...boxes: PlacedBox[]): Placed => ({
  ...emptyPlaced('Award'),
  fields: [{ id: 'f', name: 'Name', columnId: 'n' }],
  boxes,
});

test('texts that are too long for their places, and codes that there are none of, are told with whose they are', () => {
  const template = placedOf(text('a', 20, { name: 'Name of the learner' }), code);
  const measured = [
    { box: 'a', who: { fits: ['e0'], shrinks: ['e2'], long: ['e1', 'gone'] } },
    { box: 'q', who: { letters: ['e2'], 'too-long': ['e1'], blank: ['e0'] } },
    { box: 'deleted', who: { long: ['e0'] } },
  ];
  const findings = fitFindings(template, measured, roll, false);
  expect(findings.map(({ code: one, entryIds, severity }) => [one, entryIds, severity])).toEqual([
    ['box-long', ['e1'], 'look'],
    ['box-no-code', ['e2', 'e1'], 'look'],
  ]);
  expect(findings[0]!.message).toMatch(
    /^“Name of the learner” in the certificate is too long for its place for Wilhelmina\./,
  );
  expect(fitFindings(template, measured, roll, true)[0]!.message).toContain('in “Award”');
  expect(fitFindings(template, [{ box: 'a', who: { fits: ['e0'], shrinks: ['e1'] } }], roll, false)).toEqual(
    [],
  );
});

test('what of one paper does not fit is said in one sentence; a place is called by its words where it has no name', () => {
  const template = placedOf(text('a'), text('b', 20, { name: 'Why' }), code);
  const fits = (...states: ('fits' | 'shrinks' | 'long' | 'blank' | 'letters')[]) =>
    misfit(
      template,
      states.map((state, box) => ({ box, state })),
      roll.columns,
    );
  expect(fits('fits', 'shrinks', 'blank')).toBeNull();
  expect(fits('long', 'fits', 'fits')).toBe('Held: “Name” is too long for its place.');
  expect(fits('long', 'long', 'letters')).toBe(
    'Held: “Name” and “Why” are too long for their places. Held: no code can be made of “Number”.',
  );
});

test('places that nothing of is on their page are told, those that only reach over its edge are not', () => {
  const found = (...boxes: PlacedBox[]) =>
    preflight({
      roll,
      templates: [placedOf(text('z'), ...boxes)],
      notes: [],
      filing: emptyFiling(),
      assets: new Set(),
    }).filter(({ code: one }) => one === 'box-outside');
  expect(found(text('a', -59), text('b', 296.9))).toEqual([]);
  const [finding] = found(text('a', -60, { name: 'Far left' }), text('b', 297), {
    ...code,
    y: -80,
    name: undefined,
  });
  expect(finding!.message).toBe(
    'The certificate has 3 places outside their pages, where nothing is printed: “Far left” and “Name” and others. Move them back, or delete them.',
  );
  expect(found({ ...code, y: -80, name: undefined })[0]!.message).toBe(
    'The certificate has a place outside its page, where nothing is printed. Move it back, or delete it.',
  );
});
