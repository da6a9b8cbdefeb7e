import fc from 'fast-check';
import { PAPER_FONTS } from '../template/index.js';
import { lettersWithoutFont, packRanges, unpackRanges, type LetterRange } from './index.js';

const missing = (text: string): string[] => lettersWithoutFont(text, 'Source Serif 4');

// Greetings and names of languages in their own scripts, from memory; Unicode 17, blocks beside them.
test.each([
  ['Latin Extended Additional', 'Nguyễn Thị Ánh'],
  ['Greek', 'Γεωργία'],
  ['Cyrillic', 'Ольга'],
  ['Armenian', 'Հայերեն'],
  ['Hebrew', 'נועם'],
  ['Arabic', 'محمد السعدي'],
  ['Syriac', 'ܣܘܪܝܝܐ'],
  ['Thaana', 'ދިވެހި'],
  ['NKo', 'ߒߞߏ'],
  ['Devanagari', 'अनन्या'],
  ['Bengali', 'বাংলা'],
  ['Gurmukhi', 'ਪੰਜਾਬੀ'],
  ['Gujarati', 'ગુજરાતી'],
  ['Oriya', 'ଓଡ଼ିଆ'],
  ['Tamil', 'தமிழ்'],
  ['Telugu', 'తెలుగు'],
  ['Kannada', 'ಕನ್ನಡ'],
  ['Malayalam', 'മലയാളം'],
  ['Sinhala', 'සිංහල'],
  ['Thai', 'ณัฐพงษ์'],
  ['Lao', 'ລາວ'],
  ['Tibetan', 'བོད་'],
  ['Myanmar', 'မြန်မာ'],
  ['Georgian', 'ქართული'],
  ['Ethiopic', 'አማርኛ'],
  ['Khmer', 'ខ្មែរ'],
  ['Mongolian', 'ᠮᠣᠩᠭᠣᠯ'],
  ['CJK Unified Ideographs', '王小明'],
  ['Hiragana, Katakana', 'さくら サクラ'],
  ['Hangul Syllables', '김서연'],
  ['Emoticons', '😀👩‍🏫❤️'],
  ['Arrows, Dingbats', '→ ✓ ✗ ★'],
])('%s: every paper has letters for it', (_, text) => expect(missing(text)).toEqual([]));

test('what no font has is told, each letter once; what is not seen is not missing', () => {
  // Unicode 17: Egyptian Hieroglyphs, Private Use Area, a noncharacter.
  expect(missing('A \u{13000}\u{13001}\u{13000} \ue000')).toEqual(['\u{13000}', '\u{13001}', '\ue000']);
  expect(missing('a\u00adb\u200d\u200e\ufe0f\u2028\t\n')).toEqual([]);
});

test('letters that most texts are made of are in every family', () => {
  for (const family of PAPER_FONTS)
    for (let code = 0x20; code <= 0x24f; code++) {
      const letter = String.fromCodePoint(code);
      if (/\p{Cc}/u.test(letter)) continue;
      // Behind a letter that needs a look, all of them are looked for.
      expect(lettersWithoutFont(`\u2603${letter}`, family)).toEqual([]);
    }
});

test('ranges come out of the table as they went in', () => {
  const lengths = fc.array(fc.tuple(fc.integer({ min: 2, max: 9000 }), fc.integer({ min: 0, max: 9000 })), {
    maxLength: 30,
  });
  fc.assert(
    fc.property(lengths, (steps) => {
      let end = 0;
      const ranges = steps.map(([gap, more]): LetterRange => {
        const first = end + gap;
        end = first + more;
        return [first, end];
      });
      expect(unpackRanges(packRanges(ranges))).toEqual(ranges);
    }),
  );
});
