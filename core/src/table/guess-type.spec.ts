import { readValue } from '../column/index.js';
import { guessType } from './index.js';

const cells = (...texts: string[]) => texts.map((text) => ({ text }));
const many = (texts: string[], times: number): string[] => Array.from({ length: times }, () => texts).flat();

describe('the type of a column', () => {
  test.each([
    ['Number', ['00123', '00456', '7'], 'text'],
    ['Mark', ['71', '64.5', '', '88'], 'number'],
    ['Mark', many(['71', '64', '88', '90', '12', '13', '14', '15', 'abs'], 1), 'number'],
    ['Share', ['45%', '12.5 %'], 'percentage'],
    ['Day', ['2026-03-04', '2026-12-31'], 'date'],
    ['Timestamp', ['2026-03-04 09:30', '2026-03-05 10:00'], 'date-time'],
    ['Mail', ['a@x.example', 'b@x.example', 'none'], 'email'],
    ['Site', ['https://x.example/a', 'www.x.example'], 'web'],
    ['Photo', ['https://x.example/a.png', 'b.jpg'], 'picture'],
    ['Phone', ['020 7946 0018', '+44 20 7946 0019'], 'phone'],
    ['Consent', ['Yes', 'No', 'Yes'], 'yes/no'],
    ['Class', many(['8A', '8B', '8C'], 5), 'choice'],
    ['First name', many(['Amara', 'Ilse', 'Zoë'], 5), 'text'],
    ['Why', ['Because I like bridges, and water.', 'So that it holds.', 'No idea', 'It is fun'], 'text'],
    ['Account', ['1234567890123456789', '9876543210987654321'], 'text'],
  ])('%s %j is %s', (title, texts, type) => expect(guessType(title, cells(...texts)).type).toBe(type));
  test('several choices, with what stands between them', () => {
    const texts = many(['Maths, Art', 'Art', 'Maths, Music', 'Music, Art, Maths', 'Music'], 3);
    expect(guessType('Clubs', cells(...texts))).toEqual({
      type: 'several choices',
      format: { separator: ',' },
    });
    const column = { type: 'several choices' as const, format: { separator: ';' } };
    expect(readValue(column, 'Maths; Art ;')).toEqual({ kind: 'list', items: ['Maths', 'Art'] });
  });
  test('one date that can be read one way only settles the others', () => {
    expect(guessType('Day', cells('3/4/2026', '30/4/2026')).format).toEqual({ dateOrder: 'dmy' });
    expect(guessType('Day', cells('3/4/2026', '4/30/2026')).format).toEqual({ dateOrder: 'mdy' });
    expect(guessType('Day', cells('3/4/2026', '5/6/2026')).format).toBeUndefined();
  });
  test('a workbook’s exact values decide before the text does', () => {
    const exact = [
      { text: '4 Mar', exact: 'd:2026-03-04' },
      { text: '5 Mar', exact: 'd:2026-03-05' },
    ];
    expect(guessType('Day', exact).type).toBe('date');
    expect(readValue({ type: 'date' }, '4 Mar', 'd:2026-03-04')).toEqual({ kind: 'date', iso: '2026-03-04' });
    expect(readValue({ type: 'number' }, '', 'e:#N/A')).toMatchObject({ kind: 'wrong' });
  });
  test('what does not fit its type says why, and keeps its text', () => {
    expect(readValue({ type: 'number' }, 'absent')).toMatchObject({
      kind: 'wrong',
      reason: { code: 'not-number' },
    });
    expect(readValue({ type: 'email' }, 'a b@x.example')).toMatchObject({ kind: 'wrong' });
    expect(readValue({}, ' 00123 ')).toEqual({ kind: 'text', text: ' 00123 ' });
  });
});
