/** Letters that look like Latin ones: Unicode UTS #39, confusables.txt, those of everyday Cyrillic and Greek. */
const LATIN_LOOK: Readonly<Record<string, string>> = {
  А: 'A',
  В: 'B',
  Е: 'E',
  К: 'K',
  М: 'M',
  Н: 'H',
  О: 'O',
  Р: 'P',
  С: 'C',
  Т: 'T',
  Х: 'X',
  У: 'Y',
  Ѕ: 'S',
  І: 'I',
  Ј: 'J',
  а: 'a',
  е: 'e',
  о: 'o',
  р: 'p',
  с: 'c',
  х: 'x',
  у: 'y',
  ѕ: 's',
  і: 'i',
  ј: 'j',
  Α: 'A',
  Β: 'B',
  Ε: 'E',
  Ζ: 'Z',
  Η: 'H',
  Ι: 'I',
  Κ: 'K',
  Μ: 'M',
  Ν: 'N',
  Ο: 'O',
  Ρ: 'P',
  Τ: 'T',
  Υ: 'Y',
  Χ: 'X',
  ο: 'o',
  ν: 'v',
  ι: 'i',
};
const OTHER_LOOK = new Map(
  (['Cyrillic', 'Greek'] as const).map((script) => {
    const test = new RegExp(`\\p{Script=${script}}`, 'u');
    return [
      script,
      new Map(
        Object.entries(LATIN_LOOK).flatMap(([own, latin]) => (test.test(own) ? [[latin, own] as const] : [])),
      ),
    ] as const;
  }),
);

const count = (text: string, script: string): number =>
  text.match(new RegExp(`\\p{Script=${script}}`, 'gu'))?.length ?? 0;

/**
 * The text with letters of another script put right that only look like those around them: a Cyrillic а in a Latin
 * name. A word that has only one script stays, and so does one with letters that look like nothing of the other.
 */
export function mendLookAlikes(text: string): string {
  return text.replace(/[\p{L}\p{M}]+/gu, (word) => {
    const latin = count(word, 'Latin');
    for (const script of ['Cyrillic', 'Greek'] as const) {
      const other = count(word, script);
      if (latin === 0 || other === 0) continue;
      const toLatin = [...word].map((char) => LATIN_LOOK[char] ?? char).join('');
      const toOther = [...word].map((char) => OTHER_LOOK.get(script)!.get(char) ?? char).join('');
      const latinWorks = count(toLatin, script) === 0;
      const otherWorks = count(toOther, 'Latin') === 0;
      if (latinWorks && (latin >= other || !otherWorks)) return toLatin;
      if (otherWorks) return toOther;
    }
    return word;
  });
}
