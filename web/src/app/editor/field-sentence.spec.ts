import type { Column } from '@scriptum/core/column';
import { cohortOf } from '@scriptum/core/fill';
import { Field } from '@scriptum/core/template';
import type { SentencePart } from '../ui/sentence/sentence-piece';
import { changeField, fieldSentence, type FieldSurroundings } from './field-sentence';

const columns: Column[] = [
  { id: 'first', title: 'First name' },
  { id: 'last', title: 'Surname' },
  { id: 'mark', title: 'Mark', type: 'number' },
  { id: 'born', title: 'Born', type: 'date' },
];
const around: FieldSurroundings = {
  columns,
  entry: { id: 'e', position: 0, values: { first: 'Zoë', mark: '71.25', born: '2012-04-03' } },
  language: 'en-GB',
  day: '2026-11-26',
  form: 'text',
};
const plain: Field = { id: 'f', name: 'First name', columnId: 'first' };
const told = (field: Field, more = {}): string =>
  fieldSentence(field, { ...around, ...more })
    .map((piece) => (typeof piece === 'string' ? piece : piece.text))

    .join('')
    .replaceAll('\n', ' ')
    .replace(/ \+$/, '');
const part = (field: Field, id: string): SentencePart =>
  fieldSentence(field, around).find(
    (piece): piece is SentencePart => typeof piece !== 'string' && piece.id === id,
  )!;
/** What was chosen one after the other; each step is one that the sentence offers. */
function choose(field: Field, ...steps: [id: string, value: string][]): Field {
  return steps.reduce((one, [id, value]) => {
    const offered = part(one, id);
    expect(offered.options.some((option) => option.value === value) || offered.typed !== undefined).toBe(
      true,
    );
    return Field.parse(changeField(one, { id, value }, around));
  }, field);
}

test('a field as it is put in', () => {
  expect(told(plain)).toBe('Prints First name. If blank, print nothing.');
  expect(told({ ...plain, columnId: null })).toBe('Prints choose a column.');
  expect(part({ ...plain, columnId: 'gone' }, 'source').look).toBe('missing');
});

test('two values, and each thing that can be said of them', () => {
  const name = choose(
    plain,
    ['add', 'more'],
    ['between 0', ', '],
    ['blank', 'line'],
    ['add', 'before'],
    ['before', 'For '],
    ['add', 'after'],
    ['after', '!'],
  );
  expect(told(name)).toBe(
    'Prints “For ” and First name, then a comma and Surname, and “!” behind. If blank, leave its line out.',
  );
  expect(name).toMatchObject({
    more: [{ columnId: 'last', name: 'Surname', between: ', ' }],
    whenBlank: { do: 'line' },
  });
  // What was put in can be taken out again, and then it is a plain field.
  expect(choose(name, ['more 0', 'out'], ['before', ''], ['after', ''], ['blank', 'nothing'])).toEqual(plain);
});

test('formats are shown as they come out for the picked learner, in the language of the text', () => {
  const born: Field = { id: 'f', name: 'Born', columnId: 'born' };
  const looks = part(born, 'format').options.map(({ label }) => label);
  expect(looks).toEqual([
    'As it stands in its cell',
    '3 April 2012',
    expect.stringMatching(/^Tuesday,? 3 April 2012$/),
    '3 Apr 2012',
    '03/04/2012',
    '2012-04-03',
  ]);
  const german = fieldSentence(born, { ...around, language: 'de-DE' });
  expect(JSON.stringify(german)).toContain('3. April 2012');
  const long = choose(born, ['format', part(born, 'format').options[1]!.value]);
  expect(told(long)).toBe('Prints Born, like 3 April 2012. If blank, print nothing.');
  expect(choose(long, ['format', 'plain'])).toEqual(born);
  const mark: Field = { id: 'f', name: 'Mark', columnId: 'mark' };
  expect(part(mark, 'format').options.map(({ hint }) => hint)).toEqual([
    undefined,
    '71',
    '71.3',
    '71.25',
    '71.25',
    '+71.25',
  ]);
});

test('another column takes the format of the one before with it', () => {
  const born: Field = {
    id: 'f',
    name: 'Born',
    columnId: 'born',
    format: { kind: 'date', style: 'iso', time: false },
  };
  expect(choose(born, ['source', 'mark'])).toEqual({ id: 'f', name: 'Mark', columnId: 'mark' });
});

test('words for some', () => {
  const words = choose(
    plain,
    ['source', 'mark'],
    ['add', 'words'],
    ['is 0', 'at least'],
    ['with 0', '70'],
    ['words 0', 'with distinction'],
  );
  expect(told(words)).toBe(
    'Prints Mark, as it stands. If Mark is at least 70, “with distinction” instead. If blank, print nothing.',
  );
  expect(told(choose(words, ['is 0', 'blank']))).toContain('If Mark is blank, “with distinction” instead.');
  expect(choose(words, ['if 0', 'out']).wordsIf).toBeUndefined();
});

test('the day and a text are the same for everybody; a name of a file has no day and no sentences', () => {
  expect(told(choose(plain, ['source', 'same day']))).toBe(
    'Prints the day of pressing, like 26 November 2026.',
  );
  expect(told(choose(plain, ['source', 'same text'], ['text', 'Mr Grey']))).toBe(
    'Prints the text “Mr Grey”.',
  );
  const name = fieldSentence(plain, { ...around, form: 'name' }).filter((piece) => typeof piece !== 'string');
  const offered = name.flatMap(({ options }) => options.map(({ value }) => value));
  expect(offered).not.toContain('same day');
  expect(offered).not.toContain('sentence');
  expect(offered).toContain('dash');
});

test('what is missing is seen: words that are blank, columns that are gone', () => {
  const field: Field = {
    ...plain,
    whenBlank: { do: 'words', words: '' },
    more: [{ between: ' ', name: 'Old', columnId: 'gone' }],
  };
  expect([part(field, 'blank words').look, part(field, 'more 0').look]).toEqual(['missing', 'missing']);
  expect(told(field)).toBe('Prints First name, then a space and Old. If blank, print nothing yet.');
});

test('days that the roll has in two forms are printed alike, unless it is said otherwise', () => {
  const born: Field = { id: 'f', name: 'Born', columnId: 'born' };
  const entries = ['2012-04-03', '4 May 2011'].map((day, position) => ({
    id: `e${position}`,
    position,
    values: { born: day },
  }));
  const mixed = { ...around, cohort: cohortOf({ columns, entries }) };
  expect(told(born, mixed)).toContain('Prints Born, alike for all.');
  const pieces = fieldSentence(born, mixed);
  const format = pieces.find(
    (piece): piece is SentencePart => typeof piece !== 'string' && piece.id === 'format',
  )!;
  expect(format.options.slice(0, 2)).toMatchObject([
    { label: 'All alike', hint: '3 April 2012' },
    { label: 'As it stands in its cell' },
  ]);
  const own = Field.parse(changeField(born, { id: 'format', value: format.options[1]!.value }, mixed));
  expect(told(own, mixed)).toContain('Prints Born, as it stands.');
});

test('what a joined sheet says of a learner: which column, which rows, which of them', () => {
  const sheets = [{ id: 's1', name: 'clubs.csv', titles: ['Club', 'Day', 'Role'] }];
  const around_ = { ...around, sheets };
  const change = (field: Field, id: string, value: string): Field => {
    const piece = fieldSentence(field, around_).find(
      (one): one is SentencePart => typeof one !== 'string' && one.id === id,
    )!;
    expect(piece.options.some((one) => one.value === value) || piece.typed !== undefined).toBe(true);
    return Field.parse(changeField(field, { id, value }, around_));
  };
  const asked = [
    ['source', 'look s1'],
    ['take', 'first'],
    ['where', '2'],
    ['says', 'captain'],
  ].reduce((one, [id, value]) => change(one, id!, value!), plain);
  expect(told(asked, { sheets })).toBe(
    'Prints what clubs.csv says: the first of Club, from rows whose Role is “captain”. If blank, print nothing.',
  );
  expect(asked).toMatchObject({
    columnId: null,
    rowsOf: 's1',
    lookUp: { at: 0, take: 'first', where: { at: 2, says: 'captain' } },
  });
  expect(change(asked, 'where', '').lookUp).toEqual({ at: 0, take: 'first' });
  // Another source forgets it.
  expect(change(asked, 'source', 'mark').lookUp).toBeUndefined();
});
