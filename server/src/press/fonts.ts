import { createRequire } from 'node:module';
import path from 'node:path';

const require = createRequire(import.meta.url);

const FOUR = ['400Regular', '400Regular_Italic', '700Bold', '700Bold_Italic'];
const UPRIGHT = ['400Regular', '700Bold'];

/** The faces that ship, by package. */
const FACES: Readonly<Record<string, readonly string[]>> = {
  'source-serif-4': FOUR,
  'source-sans-3': FOUR,
  'eb-garamond': FOUR,
  'atkinson-hyperlegible-next': FOUR,
  'noto-sans': FOUR,
  vazirmatn: UPRIGHT,
  'noto-sans-hebrew': UPRIGHT,
  'noto-sans-devanagari': UPRIGHT,
  'noto-sans-thai': UPRIGHT,
  'noto-sans-sc': UPRIGHT,
  'noto-sans-kr': UPRIGHT,
};

/** Folders that hold the papers' fonts. */
export function fontFolders(): string[] {
  return Object.entries(FACES).flatMap(([name, faces]) => {
    const folder = path.dirname(require.resolve(`@expo-google-fonts/${name}/package.json`));
    return faces.map((face) => path.join(folder, face));
  });
}
