import { createRequire } from 'node:module';
import path from 'node:path';

const require = createRequire(import.meta.url);

const FOUR = ['400Regular', '400Regular_Italic', '700Bold', '700Bold_Italic'];
const UPRIGHT = ['400Regular', '700Bold'];
const REGULAR = ['400Regular'];

/** The faces that ship, by package. */
const FACES: Readonly<Record<string, readonly string[]>> = {
  'source-serif-4': FOUR,
  'source-sans-3': FOUR,
  'eb-garamond': FOUR,
  'atkinson-hyperlegible-next': FOUR,
  lora: FOUR,
  'crimson-pro': FOUR,
  merriweather: FOUR,
  'work-sans': FOUR,
  'nunito-sans': FOUR,
  'playfair-display': FOUR,
  cinzel: UPRIGHT,
  'dancing-script': UPRIGHT,
  'great-vibes': REGULAR,
  'cormorant-garamond': FOUR,
  'pinyon-script': REGULAR,
  'noto-sans': FOUR,
  vazirmatn: UPRIGHT,
  'noto-sans-hebrew': UPRIGHT,
  'noto-sans-devanagari': UPRIGHT,
  'noto-sans-thai': UPRIGHT,
  'noto-sans-sc': UPRIGHT,
  'noto-sans-kr': UPRIGHT,
  'noto-sans-armenian': UPRIGHT,
  'noto-sans-bengali': UPRIGHT,
  'noto-sans-ethiopic': UPRIGHT,
  'noto-sans-georgian': UPRIGHT,
  'noto-sans-gujarati': UPRIGHT,
  'noto-sans-gurmukhi': UPRIGHT,
  'noto-sans-kannada': UPRIGHT,
  'noto-sans-khmer': UPRIGHT,
  'noto-sans-lao': UPRIGHT,
  'noto-sans-malayalam': UPRIGHT,
  'noto-sans-mongolian': REGULAR,
  'noto-sans-myanmar': UPRIGHT,
  'noto-sans-nko': REGULAR,
  'noto-sans-oriya': UPRIGHT,
  'noto-sans-sinhala': UPRIGHT,
  'noto-sans-syriac': UPRIGHT,
  'noto-sans-tamil': UPRIGHT,
  'noto-sans-telugu': UPRIGHT,
  'noto-sans-thaana': UPRIGHT,
  'noto-serif-tibetan': UPRIGHT,
  'noto-sans-symbols': UPRIGHT,
  'noto-sans-symbols-2': REGULAR,
  'noto-emoji': UPRIGHT,
};

/** Folders that hold the papers' fonts. The typesetter reads a font when a letter of it is first set. */
export function fontFolders(): string[] {
  return Object.entries(FACES).flatMap(([name, faces]) => {
    const folder = path.dirname(require.resolve(`@expo-google-fonts/${name}/package.json`));
    return faces.map((face) => path.join(folder, face));
  });
}
