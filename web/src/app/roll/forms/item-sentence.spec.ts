import type { Column } from '@scriptum/core/column';
import { emptyForm, FormItem, type Form, type MarkedItem } from '@scriptum/core/form';
import type { SentencePart, SentencePiece } from '../../ui/sentence/sentence-piece';
import { ASKED, BETWEEN, newItem } from './item-kinds';
import { changeItem, itemSentence, shownSentence } from './item-sentence';
import { changeMark, markSentence } from './mark-sentence';
import { changeTerms, localMoment, termsSentence } from './terms-sentence';

let n = 0;
const newId = (): string => `id${++n}`;
const others: Column[] = [{ id: 'class1', title: 'Class' }];
const formOf = (...items: FormItem[]): Form => ({ ...emptyForm('Form', 'en'), items });
const around = (item: FormItem, before: FormItem[] = []) => ({ form: formOf(...before, item), item, others });
const textOf = (pieces: readonly SentencePiece[]): string =>
  pieces.map((piece) => (typeof piece === 'string' ? piece : piece.text)).join('');
const partOf = (pieces: readonly SentencePiece[], id: string): SentencePart =>
  pieces.find((piece): piece is SentencePart => typeof piece !== 'string' && piece.id === id)!;
const changed = (item: FormItem, ...changes: [string, string][]): FormItem =>
  changes.reduce((now, [id, value]) => changeItem(around(now), { id, value }), item);

test('every kind that can be added is one that the form takes, and reads as a sentence', () => {
  for (const { kind } of [...ASKED, ...BETWEEN]) {
    const item = newItem(kind, 'en', newId);
    expect(FormItem.safeParse(item).success).toBe(true);
    const sentence = textOf(itemSentence(around(item)));
    expect(sentence).not.toMatch(/undefined|null|\s\s| \./);
    expect(textOf(shownSentence(around(item)))).toMatch(/ always\.$/);
  }
});

test('what is chosen or typed in a sentence is what the item says afterwards', () => {
  const number = changed(
    newItem('number', 'en', newId),
    ['required', 'true'],
    ['least', '-2,5'],
    ['most', '40'],
    ['whole', 'true'],
  );
  expect(number).toMatchObject({ required: true, least: '-2.5', most: '40', whole: true });
  expect(textOf(itemSentence(around(number)))).toContain(
    'It has to be answered, is a whole number from -2.5 to 40',
  );
  const day = changed(newItem('date', 'en', newId), ['first', '2026-02-30x'], ['last', '2026-03-05']);
  expect(day).toMatchObject({ last: '2026-03-05' });
  expect(day).not.toHaveProperty('first');
  const time = changed(newItem('time', 'en', newId), ['first', '8:30']);
  expect(time).toMatchObject({ first: '08:30' });
  const short = changed(
    newItem('short', 'en', newId),
    ['rule', 'begins with'],
    ['ruleText', 'TQ-'],
    ['most', '12'],
    ['least', 'x'],
  );
  expect(short).toMatchObject({ rule: { is: 'begins with', text: 'TQ-' }, most: 12 });
  expect(short).not.toHaveProperty('least');
  expect(changed(short, ['rule', 'only digits'])).toMatchObject({ rule: { is: 'only', of: 'digits' } });
  expect(changed(short, ['rule', ''])).not.toHaveProperty('rule');
  for (const one of [number, day, time, short]) expect(FormItem.safeParse(one).success).toBe(true);
});

test('an item can stand in a column that the roll has, and be brought along by a link under a name of its own', () => {
  const first = { ...newItem('short', 'en', newId), label: { en: 'Première classe?' } } as FormItem;
  const inColumn = changed(first, ['column', 'class1']);
  expect(textOf(itemSentence(around(inColumn)))).toContain('Its answers stand in Class');
  expect(changed(inColumn, ['column', ''])).not.toHaveProperty('columnId');
  const { options } = partOf(itemSentence(around(first)), 'prefill');
  expect(options.map(({ value }) => value)).toEqual(['', 'premiere-classe']);
  const brought = changed(first, ['prefill', options[1]!.value]);
  const second = { ...first, id: 'other' } as FormItem;
  expect(partOf(itemSentence(around(second, [brought])), 'prefill').options[1]!.value).toBe(
    `${options[1]!.value}-2`,
  );
  // What cannot stand in a link is not taken.
  expect(changed(first, ['prefill', 'Größe'])).toEqual(first);
});

test('an item hangs on answers before it alone', () => {
  const yesNo = { ...newItem('one', 'en', newId), label: { en: 'Sailed?' } } as FormItem;
  const item = newItem('long', 'en', newId);
  const at = { form: formOf(yesNo, item, newItem('short', 'en', newId)), item, others };
  const conditional = changeItem(at, { id: 'stands', value: 'if' });
  const columnId = yesNo.id;
  expect(conditional.shownIf).toEqual({ columnId, is: 'equal', values: [''] });
  const asked = { ...at, form: formOf(yesNo, conditional), item: conditional };
  const sentence = shownSentence(asked);
  expect(partOf(sentence, 'if 0').options.map(({ label }) => label)).toEqual(['Take this out', 'Sailed?']);
  expect(partOf(sentence, 'with 0').options.map(({ label }) => label)).toEqual(['Yes', 'No']);
  expect(changeItem(asked, { id: 'with 0', value: 'Yes' }).shownIf).toEqual({
    columnId,
    is: 'equal',
    values: ['Yes'],
  });
  expect(changeItem(asked, { id: 'stands', value: 'always' })).not.toHaveProperty('shownIf');
  // Before the first question there is nothing to ask for.
  expect(changeItem(around(item), { id: 'stands', value: 'if' })).not.toHaveProperty('shownIf');
});

test('the terms read as a sentence, and are changed in it', () => {
  const email = { ...newItem('email', 'en', newId), label: { en: 'Email' } } as FormItem;
  const now = new Date('2026-11-27T10:20:00Z');
  const form = formOf(email);
  expect(textOf(termsSentence(form))).toBe(
    'It is answered by anyone who has its link. It is open as soon as it is published until somebody closes it, and takes all answers. ' +
      'Each counts as often as it is sent. Afterwards people cannot change their answers, get no copy of them, take no paper along, and see the words above. ' +
      'When each answer came stands beside the row alone. It stands on a page of its own.',
  );
  const set = (id: string, value: string, of = form): Form => changeTerms(of, { id, value }, now);
  expect(set('opens', 'set').terms.opens).toBe('2026-11-27T11:00:00.000Z');
  expect(set('opens', '', set('opens', 'set')).terms.opens).toBeNull();
  expect(set('most', '120').terms.most).toBe(120);
  for (const wrong of ['0', '-3', '1.5', 'many', '1000000']) expect(set('most', wrong).terms.most).toBeNull();
  const once = set('once', email.id);
  expect(textOf(termsSentence(once))).toContain('Each counts once for each “Email”');
  expect(set('mayChange', 'true').terms.mayChange).toBe(true);
  expect(set('embed', 'true').terms.embed).toBe(true);
  const own = set('who', 'roll', set('once', email.id));
  expect(own.terms).toMatchObject({ who: 'roll', onceBy: null });
  expect(textOf(termsSentence(own))).toContain('takes all answers, one for each learner.');
  expect(set('who', 'nobody').terms.who).toBe('anyone');
  expect(set('next', ' www.school.example/thanks ').terms.next).toBe('https://www.school.example/thanks');
  expect(set('next', '', set('next', 'https://a.example')).terms.next).toBeNull();
  for (const wrong of ['javascript:alert(1)', 'data:text/html,x', 'https://', 'a b'])
    expect([wrong, set('next', wrong).terms.next]).toEqual([wrong, null]);
  const copied = set('copy', email.id);
  expect(textOf(termsSentence(copied))).toContain('get a copy of them at “Email”, take no paper along');
  expect(set('copy', '', copied).terms.copyTo).toBeNull();
  // Addresses that the roll has are known of its learners alone.
  const guardian = { id: 'guard1', title: 'Guardian', type: 'email' as const };
  expect(partOf(termsSentence(form, [guardian]), 'copy').options).toHaveLength(2);
  expect(partOf(termsSentence(own, [guardian]), 'copy').options).toHaveLength(3);
  expect(set('who', 'anyone', set('copy', 'guard1', own)).terms.copyTo).toBeNull();
  expect(set('who', 'anyone', set('copy', email.id, own)).terms.copyTo).toBe(email.id);
  expect(textOf(termsSentence(set('paper', 'true')))).toContain('can take their paper along');
  const stamped = set('stamp', 'true');
  expect(set('stamp', 'true', stamped).terms.stampId).toBe(stamped.terms.stampId);
  expect(set('stamp', 'false', stamped).terms.stampId).toBeNull();
  expect(new Date(localMoment('2026-11-27T11:00:00.000Z')).toISOString()).toBe('2026-11-27T11:00:00.000Z');
});

test('a question gives points where something is right, and none any more', () => {
  const item = newItem('one', 'en', newId) as MarkedItem;
  expect(textOf(markSentence(item))).toBe('It gives no points.');
  const marked = changeMark(item, { id: 'points', value: ' 1,5 ' });
  expect(marked.mark).toEqual({ points: '1.5', right: [] });
  expect(textOf(markSentence(marked))).toBe('It gives 1.5 points where one of these is chosen.');
  const right = { ...marked, mark: { points: '1.5', right: ['a'] } } as MarkedItem;
  expect(changeMark(right, { id: 'points', value: '1' }).mark).toEqual({ points: '1', right: ['a'] });
  for (const wrong of ['0', '-2', 'many'])
    expect(changeMark(right, { id: 'points', value: wrong })).toBe(right);
  expect(changeMark(right, { id: 'points', value: '' })).not.toHaveProperty('mark');
});
