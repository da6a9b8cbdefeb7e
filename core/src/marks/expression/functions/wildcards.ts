import { spend } from '../effort.js';

const MANY = Symbol('many');
const ONE = Symbol('one');
type Sign = string | typeof MANY | typeof ONE;

/**
 * A test of whole texts, capitals or not: `*` stands for any letters, `?` for one, `~` before either for the sign itself
 * (ODF 1.3 Part 4, 3.4: HOST-USE-WILDCARDS).
 */
export function wildcards(wanted: string): (text: string) => boolean {
  const signs = (wanted.toLowerCase().match(/~[*?~]|[\s\S]/gu) ?? []).map((one): Sign => {
    if (one === '*') return MANY;
    if (one === '?') return ONE;
    return one.length > 1 && one.startsWith('~') ? one.slice(1) : one;
  });
  if (signs.every((one) => typeof one === 'string')) {
    const plain = signs.join('');
    return (text) => text.toLowerCase() === plain;
  }
  return (text) => fits(signs, Array.from(text.toLowerCase()));
}

/** Goes back to the last star only, which is enough, so that it takes at most letters × signs steps. */
function fits(signs: readonly Sign[], letters: readonly string[]): boolean {
  spend(letters.length / 50);
  let sign = 0;
  let letter = 0;
  let star = -1;
  let from = 0;
  while (letter < letters.length) {
    const wanted = signs[sign];
    if (wanted === MANY) {
      star = sign++;
      from = letter;
    } else if (wanted === ONE || wanted === letters[letter]) {
      sign++;
      letter++;
    } else if (star >= 0) {
      spend(0.02);
      sign = star + 1;
      letter = ++from;
    } else return false;
  }
  return signs.slice(sign).every((one) => one === MANY);
}
