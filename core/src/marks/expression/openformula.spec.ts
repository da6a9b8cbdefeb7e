import { saying } from '../../sentences/index.js';
import { cellText, evaluate, parseFormula, readFormula, type Cell, type Surroundings } from '../index.js';
import { number, truth } from '../cell.js';
import { ratio } from '../../ratio/index.js';

/**
 * The classes of OpenFormula (ODF 1.3 Part 4) in which programs go wrong. Each expectation was worked out by LibreOffice Calc
 * 7.4 as well, but where a line says that Scriptum differs on purpose.
 */
const numberOf = (value: string): Cell => number(ratio(value), null);
const text = (value: string): Cell => ({ kind: 'text', text: value });
const date = (iso: string): Cell => ({ kind: 'date', iso });
const MIXED: Cell[] = [
  numberOf('1'),
  text('1'),
  { kind: 'blank' },
  text('x'),
  numberOf('2'),
  text('Alpha'),
  text('alpine'),
  date('2026-01-02'),
  text('a*b'),
  text('2026-01-02'),
  numberOf('50'),
];
const CELLS: Record<string, Cell> = {
  gap: { kind: 'blank', why: saying('no-answers') },
  born: date('2012-02-29'),
  at: date('2026-11-25T09:35:00'),
  yes: truth(true),
};
const COLUMNS = [...Object.keys(CELLS), 'mixed'].map((id) => ({ id, title: id }));

function work(written: string, cells = CELLS): Cell {
  const read = readFormula(written, COLUMNS);
  if (!read.ok) throw new Error(read.problem.message);
  const parsed = parseFormula(read.value);
  if (!parsed.ok) throw new Error(`${written}: ${parsed.problem.message}`);
  const around: Surroundings = {
    cell: (id) => cells[id]!,
    all: (id) => (id === 'mixed' ? MIXED : [cells[id]!]),
    own: () => [],
    today: '2026-11-25',
  };
  return evaluate(parsed.value, around);
}

function shown(written: string): string {
  const cell = work(written);
  if (cell.kind === 'error') return cell.code;
  return cell.kind === 'truth' ? String(cell.truth).toUpperCase() : cellText(cell);
}

const all = (cases: readonly (readonly [string, string])[]): void =>
  test.each(cases)('%s is %s', (written, expected) => expect(shown(written)).toBe(expected));

describe('decimal commas', () => {
  // Common practice where a comma is the decimal sign: `;` parts what is given.
  all([
    ['ROUND(50,5%; 3)', '0.505'],
    ['ROUND(12,5% * 8; 1)', '1'],
    ['50,5% * 2', '1.01'],
    ['(1,5 + 2) * 3', '10.5'],
    ['SUM(1,5; 2,5)', '4'],
    ['SUM(1,5)', '6'],
    ['SUM(0.5%, 1)', '1.005'],
    ['IF(1,5 > 1; 2,5; 0)', '2.5'],
    ['1e-3 + 1', '1.001'],
    ['1.5E2', '150'],
  ]);
});

describe('SUBSTITUTE (6.20.21)', () => {
  all([
    ['SUBSTITUTE("aaa"; "aa"; "b")', 'ba'],
    ['SUBSTITUTE("aaaa"; "aa"; "b"; 2)', 'aab'],
    ['SUBSTITUTE("aaa"; "aa"; "b"; 2)', 'aaa'],
    ['SUBSTITUTE("121212"; "2"; "ab"; 3)', '12121ab'],
    ['SUBSTITUTE("121212"; "2"; "ab"; 9)', '121212'],
    ['SUBSTITUTE("121212"; "2"; "ab"; 0)', '#VALUE!'],
    ['SUBSTITUTE("121212"; "2"; "ab"; -1)', '#VALUE!'],
    ['SUBSTITUTE("a.b"; "."; "$&"; 1)', 'a$&b'],
    ['SUBSTITUTE("a.b"; "."; "$1")', 'a$1b'],
    ['SUBSTITUTE("abc"; ""; "x")', 'abc'],
  ]);
});

describe('times', () => {
  test('every minute of a day is the minute that was written (6.10.12)', () => {
    const wrong: string[] = [];
    for (let minute = 0; minute < 1440; minute++) {
      const written = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
      const at = date(`2026-11-25T${written}:00`);
      const said = ['HOUR([at]) & ":" & MINUTE([at])', `HOUR("${written}") & ":" & MINUTE("${written}")`];
      for (const formula of said)
        if (cellText(work(formula, { at })) !== `${Math.floor(minute / 60)}:${minute % 60}`)
          wrong.push(`${formula} at ${written}`);
    }
    expect(wrong).toEqual([]);
  });
  all([
    ['MINUTE("2026-11-25T09:35:00")', '35'],
    ['HOUR("2026-11-25 21:35")', '21'],
    ['HOUR("9:35 pm")', '21'],
    ['HOUR(1.5)', '12'],
    ['MINUTE(0.999)', '58'],
    ['SECOND("09:35:20")', '20'],
    ['VALUE("12:00")', '0.5'],
    ['[at] + 1', '2026-11-26 09:35:00'],
    ['INT([at])', '46351'],
    ['YEAR([at])', '2026'],
  ]);
});

describe('dates are numbers (4.3.3)', () => {
  all([
    ['MAX(DATE(2026; 1; 1); 5)', '46023'],
    ['SUM(DATE(2026; 1; 1); 1)', '46024'],
    ['COUNT(DATE(2026; 1; 1))', '1'],
    ['AVERAGE(DATE(2026; 1; 1); DATE(2026; 1; 3))', '46024'],
    ['SUMPRODUCT(LIST(DATE(2026; 1; 1)); LIST(2))', '92046'],
    ['VALUE("2026-01-02")', '46024'],
    ['"2026-01-02" + 1', '46025'],
    ['[born] > 40000', 'TRUE'],
    // As dates are shown: a date where all that is chosen from are.
    ['MAX([born]; DATE(2020; 1; 1))', '2020-01-01'],
    ['MIN([born]; DATE(2020; 1; 1))', '2012-02-29'],
    ['LARGE(LIST([born]; DATE(2020; 1; 1)); 2)', '2012-02-29'],
    // Scriptum compares a text with what it says, as it does with numbers; Calc compares texts with texts alone.
    ['[born] = "2012-02-29"', 'TRUE'],
    ['[born] > "2012-01-01"', 'TRUE'],
    ['"2013-01-01" <= [born]', 'FALSE'],
    // A year of two digits is one from 1950 to 2049, as wherever Scriptum reads dates.
    ['DATE(29; 1; 1)', '2029-01-01'],
    ['DATE(49; 12; 31)', '2049-12-31'],
    ['DATE(50; 1; 1)', '1950-01-01'],
    ['YEAR("25 Nov 30")', '2030'],
    ['YEAR(447700900123)', '#NUM!'],
    ['WEEKDAY("07700900123")', '#NUM!'],
    ['EDATE([born]; 1E9)', '#NUM!'],
    ['DATE(1E9; 1; 1)', '#NUM!'],
  ]);
});

describe('WEEKDAY (6.10.20), DATEDIF (6.10.3), NETWORKDAYS (6.10.14)', () => {
  // 25 November 2026 is a Wednesday.
  test.each([
    [1, 4],
    [2, 3],
    [3, 2],
    [11, 3],
    [12, 2],
    [13, 1],
    [14, 7],
    [15, 6],
    [16, 5],
    [17, 4],
  ])('type %i', (type, day) => expect(shown(`WEEKDAY([at]; ${type})`)).toBe(String(day)));
  all([
    ['WEEKDAY([at]; 4)', '#NUM!'],
    ['WEEKDAY([at]; 18)', '#NUM!'],
    ['DATEDIF(DATE(2020; 2; 29); DATE(2026; 1; 1); "yd")', '306'],
    ['DATEDIF(DATE(2020; 2; 29); DATE(2026; 2; 28); "yd")', '364'],
    ['DATEDIF(DATE(2020; 2; 29); DATE(2026; 3; 1); "yd")', '0'],
    ['DATEDIF(DATE(2020; 5; 15); DATE(2026; 11; 25); "YD")', '194'],
    ['DATEDIF(DATE(2020; 11; 30); DATE(2026; 11; 25); "yd")', '360'],
    ['DATEDIF(DATE(2019; 5; 15); DATE(2024; 8; 3); "md")', '19'],
    ['DATEDIF(DATE(2019; 5; 15); DATE(2024; 8; 20); "md")', '5'],
    // From the last whole month on, which ends on 28 February; Calc gives -2, which no number of days is.
    ['DATEDIF(DATE(2019; 1; 31); DATE(2026; 3; 1); "md")', '1'],
    ['DATEDIF(DATE(2026; 1; 31); DATE(2026; 2; 28); "m")', '0'],
    ['DATEDIF(DATE(2026; 1; 2); DATE(2026; 1; 1); "d")', '#NUM!'],
    ['NETWORKDAYS(DATE(2026; 11; 20); DATE(2026; 11; 27))', '6'],
    ['NETWORKDAYS(DATE(2026; 11; 20); DATE(2026; 11; 27); DATE(2026; 11; 23))', '5'],
    ['NETWORKDAYS(DATE(2026; 11; 20); DATE(2026; 11; 27); LIST(46349; "2026-11-24"; "2026-11-22"))', '4'],
    ['NETWORKDAYS(DATE(2026; 11; 27); DATE(2026; 11; 20))', '-6'],
    ['NETWORKDAYS([at]; [at])', '1'],
  ]);
});

describe('conditions of COUNTIF, SUMIF and AVERAGEIF (4.11.8, wildcards 3.4)', () => {
  // Calc counts TRUE as the number 1, so no truth stands in this list.
  all([
    ['COUNTIF(ALL([mixed]); "1")', '2'],
    ['COUNTIF(ALL([mixed]); 1)', '1'],
    ['COUNTIF(ALL([mixed]); ">=1")', '4'],
    ['COUNTIF(ALL([mixed]); "<>1")', '9'],
    ['COUNTIF(ALL([mixed]); "x")', '1'],
    ['COUNTIF(ALL([mixed]); "X")', '1'],
    ['COUNTIF(ALL([mixed]); "<>x")', '10'],
    ['COUNTIF(ALL([mixed]); "=")', '1'],
    ['COUNTIF(ALL([mixed]); "")', '1'],
    ['COUNTIF(ALL([mixed]); "<>")', '10'],
    ['COUNTIF(ALL([mixed]); ">2026-01-01")', '1'],
    ['COUNTIF(ALL([mixed]); "2026-01-02")', '2'],
    ['COUNTIF(ALL([mixed]); DATE(2026; 1; 2))', '1'],
    ['COUNTIF(ALL([mixed]); ">=b")', '1'],
    ['COUNTIF(ALL([mixed]); ">A")', '4'],
    ['SUMIF(ALL([mixed]); ">1")', '46076'],
    ['COUNTIF(ALL([mixed]); "a*")', '3'],
    ['COUNTIF(ALL([mixed]); "*P*E")', '1'],
    ['COUNTIF(ALL([mixed]); "al?ine")', '1'],
    ['COUNTIF(ALL([mixed]); "a~*b")', '1'],
    ['COUNTIF(ALL([mixed]); "?")', '2'],
    ['COUNTIF(ALL([mixed]); "*")', '6'],
    ['COUNTIF(LIST("~"; "a~b"); "~")', '1'],
    ['COUNTIF(LIST("aab"; "ab"; "aabb"); "*a?b")', '2'],
    ['COUNTIF(LIST("💡x"; "x"); "?x")', '1'],
  ]);
  test('a condition full of stars takes no longer than its letters times its signs', () => {
    const cell = work(`COUNTIF(LIST(REPT("a"; 20000)); "${'*a'.repeat(50)}*b")`);
    expect(cell.kind === 'error' || cellText(cell)).toBe('0');
  });
});

describe('rounding to steps, roots, texts that say numbers', () => {
  all([
    ['CEILING(-2.5; 1)', '#NUM!'],
    ['CEILING(2.5; -1)', '#NUM!'],
    ['CEILING(-2.5; -1)', '-2'],
    ['CEILING(-7; -3; 1)', '-9'],
    ['CEILING(-2.5)', '-2'],
    ['CEILING(2.5)', '3'],
    ['CEILING(-5; 0)', '0'],
    ['FLOOR(-7; 3)', '#NUM!'],
    ['FLOOR(7; -3)', '#NUM!'],
    ['FLOOR(-7; -3)', '-9'],
    ['FLOOR(-7; -3; 1)', '-6'],
    ['FLOOR(-2.5)', '-3'],
    ['MROUND(-7; 3)', '-6'],
    ['MROUND(7; -3)', '6'],
    ['ROUND(123; -20)', '0'],
    ['SQRT(1 / 9) * 3 = 1', 'TRUE'],
    ['SQRT(2.25)', '1.5'],
    ['SQRT(123456789 ^ 2 / 49) * 7', '123456789'],
    ['8 ^ (2 / 3)', '4'],
    ['POWER(-8; 1 / 3)', '-2'],
    ['FIXED(1234.567; 2)', '1,234.57'],
    ['FIXED(1234.567; 2; TRUE)', '1234.57'],
    ['FIXED(1234567.891)', '1,234,567.89'],
    ['FIXED(1234.567; -2)', '1,200'],
    ['FIXED(-1234.5; 0)', '-1,235'],
    ['FIXED(123; 0)', '123'],
    ['VALUE("007")', '7'],
    ['VALUE("12%")', '0.12'],
    ['VALUE("-12.5 %")', '-0.125'],
    ['VALUE("1E-3")', '0.001'],
    ['VALUE("1e3")', '1000'],
    ['VALUE("1,234.5")', '1234.5'],
    ['VALUE(" 7 ")', '7'],
    ['VALUE(".5")', '0.5'],
    ['VALUE("")', '#VALUE!'],
    ['VALUE("abc")', '#VALUE!'],
    ['VALUE("3A")', '#VALUE!'],
    ['"007" + 1', '8'],
    ['PROPER("e\u0301va o\'neil-smith LÖFFLER")', "E\u0301va O'Neil-Smith Löffler"],
    ['PROPER("re\u0301ne\u0301e")', 'Re\u0301ne\u0301e'],
    ['PROPER("𐐨𐐨")', '𐐀𐐨'],
    ['CORREL(LIST(1; 2; 3); LIST(1; 2))', '#VALUE!'],
    ['CORREL(LIST(1; 2; "x"); LIST(1; 2; 3))', '1'],
    ['N(NA())', '#N/A'],
    ['N("5")', '0'],
  ]);
});

describe('blanks', () => {
  // Scriptum differs on purpose: what is made of a blank alone is blank, with why; Calc gives errors here.
  test.each(['AND([gap])', 'OR([gap]; [gap])', 'XOR([gap])', 'LOOKUP([gap]; LIST(0; 50); LIST("F"; "C"))'])(
    '%s is blank',
    (written) => expect(work(written)).toMatchObject({ kind: 'blank', why: { code: expect.any(String) } }),
  );
  test.each(['MATCH([gap]; LIST(0; 50); -1)', 'MATCH([gap]; LIST(0; 50); 0)'])('%s is blank', (written) =>
    expect(work(written).kind).toBe('blank'),
  );
  all([
    ['AND([gap]; TRUE)', 'TRUE'],
    ['AND([gap]; FALSE)', 'FALSE'],
  ]);
});
