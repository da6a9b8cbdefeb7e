import { FALLBACK_FONTS, lettersWithoutFont } from '@scriptum/core/page';
import { PAPER_FONTS } from '@scriptum/core/template';
import { readFamilies } from '@scriptum/tools/coverage';

// The fonts' own tables of characters (OpenType 1.9, cmap), read by fontkit.
test('the table of letters says what the fonts that ship have: no letter more, and none less', () => {
  const families = readFamilies();
  for (const family of PAPER_FONTS) {
    const letters = new Set([family, ...FALLBACK_FONTS].flatMap((name) => [...families.get(name)!]));
    const wrong: number[] = [];
    for (let code = 0x250; code <= 0x2ffff; code++) {
      if (code >= 0xd800 && code <= 0xdfff) continue;
      const letter = String.fromCodePoint(code);
      if (/[\p{Default_Ignorable_Code_Point}\p{White_Space}\p{Cc}]/u.test(letter)) continue;
      if ((lettersWithoutFont(letter, family).length === 0) !== letters.has(code)) wrong.push(code);
    }
    expect(wrong).toEqual([]);
  }
});
