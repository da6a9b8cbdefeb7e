import * as formulas from '@formulajs/formulajs';
import fc from 'fast-check';
import {
  cellText,
  chipTitles,
  evaluate,
  FUNCTIONS,
  parseFormula,
  readFormula,
  writeFormula,
  type Cell,
  type Surroundings,
} from '../index.js';
import { number, truth } from '../cell.js';
import { say, saying } from '../../sentences/index.js';
import { ratio } from '../../ratio/index.js';
import { Stop } from './values.js';

const numberOf = (value: number | string): Cell => number(ratio(String(value)), null);
const CELLS: Record<string, Cell> = {
  a: numberOf('71'),
  b: numberOf('64.5'),
  gap: { kind: 'blank' },
  name: { kind: 'text', text: 'Zoë Łukasz' },
  born: { kind: 'date', iso: '2012-02-29' },
  yes: truth(true),
  many: { kind: 'list', items: ['red', 'blue'] },
  bad: { kind: 'error', code: '#N/A', reason: saying('says-nothing') },
};
const COLUMNS = Object.keys(CELLS).map((id) => ({ id, title: id === 'gap' ? 'Late (days)' : id }));
const around: Surroundings = {
  cell: (id) => CELLS[id]!,
  all: (id, within) =>
    within.length > 0 ? [CELLS[id]!] : [71, 60, 83, 60].map(numberOf).concat([{ kind: 'blank' }]),
  own: (title) => {
    if (title !== 'Points')
      throw new Stop({ kind: 'error', code: '#REF!', reason: saying('no-joined-column', { title }) });
    return [3, 5, 4].map(numberOf);
  },
  today: '2026-11-23',
};
function work(written: string): Cell {
  const read = readFormula(written, COLUMNS);
  if (!read.ok) throw new Error(read.problem.message);
  const parsed = parseFormula(read.value);
  return parsed.ok
    ? evaluate(parsed.value, around)
    : { kind: 'error', code: '#NAME?', reason: parsed.problem };
}
function shown(written: string): string {
  const cell = work(written);
  return cell.kind === 'error'
    ? cell.code
    : cell.kind === 'truth'
      ? String(cell.truth).toUpperCase()
      : cellText(cell);
}

describe('signs and their order', () => {
  // OpenFormula, ODF 1.3 Part 4, 5.5: a sign before a number binds tighter than ^, which goes from left to right.
  test.each([
    ['1 + 2 * 3', '7'],
    ['(1 + 2) * 3', '9'],
    ['-2 ^ 2', '4'],
    ['2 ^ 3 ^ 2', '64'],
    ['50% * 4', '2'],
    ['2 + 50%', '2.5'],
    ['(1 + 1)% + [a]%', '0.73'],
    ['0.1 + 0.2', '0.3'],
    ['0.1 + 0.2 = 0.3', 'TRUE'],
    ['1 / 3 * 3 = 1', 'TRUE'],
    ['"a" & "b" & 1', 'ab1'],
    ['"say ""yes"""', 'say "yes"'],
    ['"Abc" = "aBC"', 'TRUE'],
    ['1 <> 2', 'TRUE'],
    ['2 >= 2', 'TRUE'],
    ['= 1 + 1', '2'],
    ['3 × 4 − 10 ÷ 5', '10'],
    ['1 / 0', '#DIV/0!'],
    ['"x" + 1', '#VALUE!'],
    ['"4" + 1', '5'],
    ['[born] + 1', '2012-03-01'],
    ['[born] - DATE(2012;2;1)', '28'],
    ['ROUND(1,5; 0)', '2'],
    ['SUM(1, 2)', '3'],
  ])('%s is %s', (written, expected) => expect(shown(written)).toBe(expected));
});

describe('a blank is no zero', () => {
  test.each([
    ['[Late (days)] + 1', ''],
    ['[Late (days)] > 3', ''],
    ['SUM([a]; [Late (days)])', '71'],
    ['AVERAGE([a]; [Late (days)])', '71'],
    ['SUM([Late (days)])', ''],
    ['IF([Late (days)] > 0; "late"; "in time")', ''],
    ['[Late (days)] = ""', 'TRUE'],
    ['IFBLANK([Late (days)]; 0)', '0'],
    ['ISBLANK([Late (days)])', 'TRUE'],
    ['[name] & [Late (days)]', 'Zoë Łukasz'],
    ['COUNTBLANK([a]; [Late (days)])', '1'],
  ])('%s is “%s”', (written, expected) => expect(shown(written)).toBe(expected));
});

describe('errors say what is wrong', () => {
  test.each([
    ['NOSUCH(1)', /no function NOSUCH/],
    ['ROUND()', /takes 1 to 2 values, and got 0/],
    ['(1 + 2', /bracket, a sign or a number/],
    ['1 2', /sign is missing/],
    ['maths + 1', /“maths” is no function and no column/],
    ['"open', /text in the formula does not end/],
    ['', /formula is blank/],
    ['[a] + 1 [', /cannot be read at “\[”/],
    ['[a].b', /cannot be read/],
    ['constructor(1)', /no function CONSTRUCTOR/],
  ])('%s', (written, sentence) => {
    const cell = work(written);
    expect(cell.kind === 'error' && say(cell.reason)).toMatch(sentence);
  });
  test('an error goes through what is made from it, and can be caught', () => {
    expect(shown('[bad] + 1')).toBe('#N/A');
    expect(shown('SUM([bad]; 1)')).toBe('#N/A');
    expect(shown('IFERROR([bad]; "none")')).toBe('none');
    expect(shown('IFNA(1 / 0; "none")')).toBe('#DIV/0!');
    expect(shown('ISERROR(1 / 0)')).toBe('TRUE');
  });
  test('a column that is not there is named; the others become columns all the same', () => {
    const read = readFormula('[Nobody] + [a]', COLUMNS);
    expect(read.ok || read.problem.message).toBe('There is no column “Nobody”. Choose one from the list.');
    const parts = chipTitles('[Nobody] + [a]', COLUMNS);
    expect(parts).toEqual([{ text: '[Nobody] + ' }, { columnId: 'a' }]);
    const parsed = parseFormula(parts);
    expect(parsed.ok || parsed.problem.message).toMatch(/no column “Nobody”/);
  });
  test('a formula is written back as it was read', () => {
    const read = readFormula('ROUND([a] * 0.4; 1) & "[a]"', COLUMNS);
    expect(read.ok && writeFormula(read.value, (id) => id)).toBe('ROUND([a] * 0.4; 1) & "[a]"');
  });
});

describe('functions, by the examples of OpenFormula (ODF 1.3 Part 4, chapter 6; from memory)', () => {
  test.each([
    ['ROUND(2.5)', '3'],
    ['ROUND(-2.5)', '-3'],
    ['ROUND(1234; -2)', '1200'],
    ['ROUNDDOWN(-1.9)', '-1'],
    ['ROUNDUP(1.1)', '2'],
    ['INT(-1.1)', '-2'],
    ['MOD(10; 3)', '1'],
    ['MOD(-10; 3)', '2'],
    ['MOD(10; -3)', '-2'],
    ['EVEN(6)', '6'],
    ['EVEN(3)', '4'],
    ['ODD(0)', '1'],
    ['ODD(-1.2)', '-3'],
    ['GCD(15; 10; 25)', '5'],
    ['LCM(12; 16)', '48'],
    ['LEFT("Hello"; 2)', 'He'],
    ['MID("123456789"; 5; 3)', '567'],
    ['RIGHT("Hello")', 'o'],
    ['FIND("b"; "abcabc")', '2'],
    ['FIND("b"; "abcabc"; 3)', '5'],
    ['SEARCH("B"; "abc")', '2'],
    ['REPLACE("123456789"; 5; 3; "Q")', '1234Q89'],
    ['REPT("X"; 3)', 'XXX'],
    ['SUBSTITUTE("121212"; "2"; "ab"; 2)', '121ab12'],
    ['TRIM(" HI  there ")', 'HI there'],
    ['PROPER("hello there")', 'Hello There'],
    ['EXACT("A"; "a")', 'FALSE'],
    ['CHOOSE(3; "Apple"; "Orange"; "Grape")', 'Grape'],
    ['MATCH(60; LIST(71; 60; 83); 0)', '2'],
    ['INDEX(LIST(5; 6; 7); 2)', '6'],
    ['LOOKUP(65; LIST(0; 50; 70); LIST("F"; "C"; "B"))', 'C'],
    ['YEAR(DATE(1904; 1; 1))', '1904'],
    ['DATE(2004; 2; 29 + 1)', '2004-03-01'],
    ['EDATE(DATE(2006; 1; 31); 1)', '2006-02-28'],
    ['EOMONTH(DATE(2006; 1; 5); 1)', '2006-02-28'],
    ['WEEKDAY(DATE(2006; 5; 21))', '1'],
    ['WEEKDAY(DATE(2006; 5; 21); 2)', '7'],
    ['DAYS(DATE(1993; 4; 16); DATE(1993; 9; 25))', '-162'],
    ['ISOWEEKNUM(DATE(2005; 1; 1))', '53'],
    ['DATEDIF([born]; TODAY(); "y")', '14'],
    ['NETWORKDAYS(DATE(2026; 11; 20); DATE(2026; 11; 23))', '2'],
    ['PERCENTRANK(LIST(1; 2; 3; 4; 5); 2.5)', '0.375'],
    ['LARGE(LIST(3; 1; 2); 1) + SMALL(LIST(3; 1; 2); 2)', '5'],
    ['COUNTIF(ALL([a]); ">=70")', '2'],
    ['AVERAGEIF(ALL([a]); "<70")', '60'],
    ['RANK([a]; ALL([a]))', '2'],
    ['MODE(ALL([a]))', '60'],
    ['MAX(ALL([a])) - MIN(ALL([a]))', '23'],
    ['COUNT(ALL([a]))', '4'],
    ['COUNT(ALL([a]; [name]))', '1'],
    ['SUM(OWN("Points"))', '12'],
    ['TEXTJOIN(", "; TRUE; OWN("Points"))', '3, 5, 4'],
    ['COUNTA(ITEMS([many]))', '2'],
    ['SWITCH("b"; "a"; 1; "b"; 2; 0)', '2'],
    ['IFS(FALSE; 1; TRUE; 2)', '2'],
    ['AND([yes]; 1; 2 > 1)', 'TRUE'],
    ['XOR(TRUE; TRUE)', 'FALSE'],
    ['N("x") + N(4)', '4'],
    ['FIXED(2.5; 2)', '2.50'],
    ['NUMBERVALUE("1.234,5"; ",")', '1234.5'],
    ['LEN("नी👩‍🏫")', '2'],
    ['UNICODE(UNICHAR(353))', '353'],
  ])('%s is %s', (written, expected) => expect(shown(written)).toBe(expected));
  test('there are at least sixty, each with its usage, and none is inherited', () => {
    expect(Object.keys(FUNCTIONS).length).toBeGreaterThanOrEqual(100);
    expect(FUNCTIONS['toString']).toBeUndefined();
    for (const [name, { usage }] of Object.entries(FUNCTIONS))
      expect(usage.startsWith(`${name}(`)).toBe(true);
  });
});

describe('against a second implementation: formulajs', () => {
  const value = fc.integer({ min: -4000, max: 4000 }).map((n) => n / 8);
  const list = fc.array(value, { minLength: 2, maxLength: 9 });
  const near = (written: string, theirs: unknown): void => {
    const cell = work(written);
    if (cell.kind === 'error' || theirs instanceof Error) {
      expect(cell.kind === 'error').toBe(theirs instanceof Error);
      return;
    }
    expect(Number(shown(written))).toBeCloseTo(Number(theirs), 6);
  };
  const OVER_LISTS = [
    ['SUM', formulas.SUM],
    ['SUMSQ', formulas.SUMSQ],
    ['AVERAGE', formulas.AVERAGE],
    ['MEDIAN', formulas.MEDIAN],
    ['MIN', formulas.MIN],
    ['MAX', formulas.MAX],
    ['PRODUCT', formulas.PRODUCT],
    ['STDEV', formulas.STDEVS],
    ['STDEVP', formulas.STDEVP],
    ['VAR', formulas.VARS],
    ['VARP', formulas.VARP],
    ['AVEDEV', formulas.AVEDEV],
    ['COUNT', formulas.COUNT],
  ] as const;
  test.each(OVER_LISTS)('%s', (name, theirs) => {
    fc.assert(
      fc.property(fc.array(value, { minLength: 2, maxLength: 4 }), (values) =>
        near(`${name}(${values.join('; ')})`, (theirs as (...given: number[]) => unknown)(...values)),
      ),
    );
  });
  const OF_ONE = [
    ['ABS', formulas.ABS],
    ['SIGN', formulas.SIGN],
    ['INT', formulas.INT],
    ['TRUNC', formulas.TRUNC],
    ['EVEN', formulas.EVEN],
  ] as const;
  test.each(OF_ONE)('%s', (name, theirs) => {
    fc.assert(
      fc.property(value, (one) => near(`${name}(${one})`, (theirs as (given: number) => unknown)(one))),
    );
  });
  test('PERCENTILE, QUARTILE, LARGE, SMALL, CORREL, MOD, QUOTIENT, POWER', () => {
    fc.assert(
      fc.property(
        list,
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 1, max: 7 }),
        (values, eighths, by) => {
          const all = `LIST(${values.join('; ')})`;
          near(`PERCENTILE(${all}; ${eighths / 8})`, formulas.PERCENTILEINC(values, eighths / 8));
          near(`QUARTILE(${all}; ${1 + (eighths % 3)})`, formulas.QUARTILEINC(values, 1 + (eighths % 3)));
          near(`LARGE(${all}; 2)`, formulas.LARGE(values, 2));
          near(`SMALL(${all}; 2)`, formulas.SMALL(values, 2));
          // For a negative multiple formulajs gives the divisor; OpenFormula gives 0.
          near(`MOD(${Math.abs(values[0]!)}; ${by})`, formulas.MOD(Math.abs(values[0]!), by));
          near(`QUOTIENT(${values[0]}; ${by})`, formulas.QUOTIENT(values[0]!, by));
          near(
            `POWER(${Math.abs(values[0]!) % 9}; ${by / 2})`,
            formulas.POWER(Math.abs(values[0]!) % 9, by / 2),
          );
        },
      ),
    );
  });
  test('texts: LEFT, RIGHT, MID, LEN, UPPER, LOWER, SUBSTITUTE', () => {
    const plain = fc.string({ unit: fc.constantFrom(...'abcXYZ 19.'), minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(plain, fc.integer({ min: 1, max: 6 }), (text, n) => {
        expect(shown(`LEFT("${text}"; ${n})`)).toBe(formulas.LEFT(text, n));
        expect(shown(`RIGHT("${text}"; ${n})`)).toBe(formulas.RIGHT(text, n));
        expect(shown(`MID("${text}"; ${n}; 3)`)).toBe(formulas.MID(text, n, 3));
        expect(shown(`LEN("${text}")`)).toBe(String(formulas.LEN(text)));
        expect(shown(`UPPER("${text}")`)).toBe(formulas.UPPER(text));
        expect(shown(`SUBSTITUTE("${text}"; "a"; "bb")`)).toBe(formulas.SUBSTITUTE(text, 'a', 'bb'));
      }),
    );
  });
});

test('no formula throws, whatever is written', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 30 }), (written) => {
      const parsed = parseFormula([{ text: written || ' ' }]);
      if (!parsed.ok) expect(parsed.problem.message).toMatch(/\.$/);
      else expect(evaluate(parsed.value, around).kind).toBeTruthy();
    }),
    { numRuns: 1000 },
  );
});
