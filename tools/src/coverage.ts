import { readdirSync } from 'node:fs';
import path from 'node:path';
import { PAPER_FONTS } from '@scriptum/core/template';
import { FALLBACK_FONTS, packRanges, type LetterRange } from '@scriptum/core/page';
import { fontFolders } from '@scriptum/server/press/fonts';
import * as fontkit from 'fontkit';

/** The code points that each shipped family has letters for, by its upright regular face. */
export function readFamilies(): Map<string, ReadonlySet<number>> {
  const families = new Map<string, ReadonlySet<number>>();
  for (const folder of fontFolders()) {
    if (!folder.endsWith('400Regular')) continue;
    const file = readdirSync(folder).find((name) => /\.(ttf|otf)$/.test(name))!;
    const font = fontkit.openSync(path.join(folder, file)) as fontkit.Font;
    families.set(font.familyName, new Set(font.characterSet));
  }
  return families;
}

/** The source of core's table of letters: those of the families that follow every other, and what each of the others adds. */
export function coverageTable(): string {
  const families = readFamilies();
  const common = new Set(FALLBACK_FONTS.flatMap((name) => [...lettersOf(families, name)]));
  const own = PAPER_FONTS.map((name) => {
    const more = [...lettersOf(families, name)].filter((letter) => !common.has(letter));
    return `  ${JSON.stringify(name)}: ${JSON.stringify(packRanges(rangesOf(more)))},`;
  });
  return [
    '// Made by `npm run coverage` from the fonts that ship. Not to be changed by hand.',
    '',
    '/** Letters that every paper can print, packed (see `coverage`). */',
    `export const COMMON = ${JSON.stringify(packRanges(rangesOf([...common])))};`,
    '',
    '/** What a family adds to them. */',
    'export const OWN = {',
    ...own,
    '} as const;',
    '',
  ].join('\n');
}

function lettersOf(families: ReadonlyMap<string, ReadonlySet<number>>, name: string): ReadonlySet<number> {
  const letters = families.get(name);
  if (!letters)
    throw new Error(`No font of the family ${name} ships. There are ${[...families.keys()].join(', ')}.`);
  return letters;
}

function rangesOf(letters: readonly number[]): LetterRange[] {
  const ranges: [number, number][] = [];
  for (const letter of [...letters].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && letter <= last[1] + 1) last[1] = letter;
    else ranges.push([letter, letter]);
  }
  return ranges;
}
