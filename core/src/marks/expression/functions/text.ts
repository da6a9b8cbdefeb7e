import { text, truth } from '../../cell.js';
import { roundRatio, ratio } from '../../../ratio/index.js';
import { splitLetters } from '../../letters.js';
import { checkLength, joined, spend } from '../effort.js';
import { filled, type Functions } from './kinds.js';
import { roundPlaces } from './numbers.js';
import {
  cellsOf,
  numberCell,
  numberOf,
  stop,
  textOf,
  truthOf,
  whole,
  wholeOf,
  type Operand,
} from '../values.js';
import { readNumber } from '../../../column/index.js';

const letters = (value: string): string[] => splitLetters(value, spend);

const count = (operand: Operand | undefined, otherwise: number): number => {
  const n = operand === undefined ? otherwise : wholeOf(operand);
  return n < 0 ? stop('#VALUE!', 'letters-negative') : n;
};

function find(needle: string, hay: string, from: number): Operand {
  const units = letters(hay);
  const rest = units.slice(from - 1).join('');
  const at = rest.indexOf(needle);
  return from < 1 || at < 0
    ? stop('#VALUE!', 'not-in-text', { text: needle.slice(0, 40) })
    : whole(from + letters(rest.slice(0, at)).length);
}

/** ODF 1.3 Part 4, 6.20. */
export const TEXT: Functions = {
  LEN: {
    counts: [1, 1],
    usage: 'LEN(text)',
    gives: 'How many letters.',
    of: ([a]) => whole(letters(textOf(a!)).length),
  },
  LEFT: {
    counts: [1, 2],
    usage: 'LEFT(text; letters)',
    gives: 'The first letters.',
    of: ([a, n]) => text(letters(textOf(a!)).slice(0, count(n, 1)).join('')),
  },
  RIGHT: {
    counts: [1, 2],
    usage: 'RIGHT(text; letters)',
    gives: 'The last letters.',
    of: ([a, n]) => {
      const size = count(n, 1);
      return text(size === 0 ? '' : letters(textOf(a!)).slice(-size).join(''));
    },
  },
  MID: {
    counts: [3, 3],
    usage: 'MID(text; from; letters)',
    gives: 'Letters out of the middle.',
    of: ([a, from, n]) => {
      const start = wholeOf(from!);
      if (start < 1) return stop('#VALUE!', 'counts-from-1', { name: 'MID' });
      return text(
        letters(textOf(a!))
          .slice(start - 1, start - 1 + count(n, 1))
          .join(''),
      );
    },
  },
  UPPER: {
    counts: [1, 1],
    usage: 'UPPER(text)',
    gives: 'In capitals.',
    of: ([a]) => text(textOf(a!).toUpperCase()),
  },
  LOWER: {
    counts: [1, 1],
    usage: 'LOWER(text)',
    gives: 'In small letters.',
    of: ([a]) => text(textOf(a!).toLowerCase()),
  },
  PROPER: {
    counts: [1, 1],
    usage: 'PROPER(text)',
    gives: 'Each word with a capital.',
    of: ([a]) =>
      text(
        textOf(a!)
          .toLowerCase()
          // A letter with its marks is one letter; the next one is not the first of a word.
          .replace(
            /(\p{L})((?:[\p{L}\p{M}])*)/gu,
            (_, first: string, rest: string) => first.toUpperCase() + rest,
          ),
      ),
  },
  TRIM: {
    counts: [1, 1],
    usage: 'TRIM(text)',
    gives: 'Without surplus blanks.',
    of: ([a]) => text(textOf(a!).replace(/ +/g, ' ').replace(/^ | $/g, '')),
  },
  CONCATENATE: {
    counts: [1, 60],
    usage: 'CONCATENATE(a; b; …)',
    gives: 'All in one text.',
    of: (given) => text(joined(cellsOf(given).map((cell) => textOf(cell)))),
  },
  CONCAT: {
    counts: [1, 60],
    usage: 'CONCAT(a; b; …)',
    gives: 'All in one text.',
    of: (given) => text(joined(cellsOf(given).map((cell) => textOf(cell)))),
  },
  TEXTJOIN: {
    counts: [3, 60],
    usage: 'TEXTJOIN(between; skip blanks; a; b; …)',
    gives: 'All in one text, with something between.',
    of: ([between, skip, ...given]) =>
      text(
        joined(
          (truthOf(skip!) ? filled(given) : cellsOf(given)).map((cell) => textOf(cell)),
          textOf(between!),
        ),
      ),
  },
  FIND: {
    counts: [2, 3],
    usage: 'FIND(what; text; from)',
    gives: 'The place of a text in another; capitals matter.',
    of: ([what, a, from]) => find(textOf(what!), textOf(a!), from ? wholeOf(from) : 1),
  },
  SEARCH: {
    counts: [2, 3],
    usage: 'SEARCH(what; text; from)',
    gives: 'The place of a text in another; capitals do not matter.',
    of: ([what, a, from]) =>
      find(textOf(what!).toLowerCase(), textOf(a!).toLowerCase(), from ? wholeOf(from) : 1),
  },
  SUBSTITUTE: {
    counts: [3, 4],
    usage: 'SUBSTITUTE(text; what; instead; which)',
    gives: 'With a text in the place of another.',
    of: ([a, what, instead, which]) => {
      const [value, old, fresh] = [textOf(a!), textOf(what!), textOf(instead!)];
      if (old === '') return text(value);
      const pieces = value.split(old);
      checkLength(value.length + (pieces.length - 1) * (fresh.length - old.length));
      if (!which) return text(pieces.join(fresh));
      const place = wholeOf(which);
      if (place < 1) return stop('#VALUE!', 'counts-from-1', { name: 'SUBSTITUTE' });
      if (place >= pieces.length) return text(value);
      return text(pieces.slice(0, place).join(old) + fresh + pieces.slice(place).join(old));
    },
  },
  REPLACE: {
    counts: [4, 4],
    usage: 'REPLACE(text; from; letters; instead)',
    gives: 'With letters in the place of others.',
    of: ([a, from, n, instead]) => {
      const units = letters(textOf(a!));
      const start = wholeOf(from!) - 1;
      if (start < 0) return stop('#VALUE!', 'counts-from-1', { name: 'REPLACE' });
      return text([...units.slice(0, start), textOf(instead!), ...units.slice(start + count(n, 0))].join(''));
    },
  },
  REPT: {
    counts: [2, 2],
    usage: 'REPT(text; times)',
    gives: 'The text several times.',
    of: ([a, n]) => {
      const value = textOf(a!);
      const times = count(n, 0);
      checkLength(value.length * times);
      return text(value.repeat(times));
    },
  },
  EXACT: {
    counts: [2, 2],
    usage: 'EXACT(a; b)',
    gives: 'True where two texts are the same, capitals too.',
    of: ([a, b]) => truth(textOf(a!) === textOf(b!)),
  },
  VALUE: {
    counts: [1, 1],
    usage: 'VALUE(text)',
    gives: 'The number that a text says.',
    of: ([a]) => numberCell(numberOf(a!)),
  },
  NUMBERVALUE: {
    counts: [2, 2],
    usage: 'NUMBERVALUE(text; decimal sign)',
    gives: 'The number that a text says with that sign.',
    of: ([a, sign]) => {
      const decimal = readNumber(textOf(a!), textOf(sign!) === ',' ? ',' : '.');
      return decimal === null
        ? stop('#VALUE!', 'text-no-number', { text: textOf(a!).slice(0, 60) })
        : numberCell(ratio(decimal));
    },
  },
  FIXED: {
    counts: [1, 3],
    usage: 'FIXED(number; places; TRUE without commas)',
    gives: 'The number as a text with that many places, and commas between thousands.',
    of: ([a, places, without]) => {
      const digits = Math.min(20, places ? wholeOf(places) : 2);
      const rounded = roundPlaces(numberOf(a!), digits, 'half up');
      const written = roundRatio(rounded, { places: Math.max(0, digits), mode: 'down' });
      return text(
        without && truthOf(without) ? written : written.replace(/\d(?=(?:\d{3})+(?:\.|$))/g, '$&,'),
      );
    },
  },
  UNICHAR: {
    counts: [1, 1],
    usage: 'UNICHAR(number)',
    gives: 'The letter with that Unicode number.',
    of: ([a]) => {
      const code = wholeOf(a!);
      return code > 0 && code < 0x110000 && (code < 0xd800 || code > 0xdfff)
        ? text(String.fromCodePoint(code))
        : stop('#VALUE!', 'no-letter', { code });
    },
  },
  UNICODE: {
    counts: [1, 1],
    usage: 'UNICODE(text)',
    gives: 'The Unicode number of the first letter.',
    of: ([a]) => {
      const code = textOf(a!).codePointAt(0);
      return code === undefined ? stop('#VALUE!', 'text-blank') : whole(code);
    },
  },
};
