import { oneLine } from '../fill/index.js';
import type { TextValues } from '../text/index.js';
import type { Filing } from '../template/index.js';

/** Bytes of UTF-8 that one part of a path may have; file systems allow 255, ".pdf" and a number come on top. */
const PART_MOST = 180;

/** Not allowed in a file name on at least one system in wide use (Microsoft Learn, "Naming Files, Paths, and Namespaces"). */
const FORBIDDEN = /[<>:"/\\|?*]/g;

/** Invisible marks that change the direction of text and would let a name look like another (Unicode UTR #36, 3.5). */
const INVISIBLE = /[\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g;

/** Device names of Windows, alone or before a dot. */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;

/** One part of a path, safe on every system; empty where nothing is left. */
export function safePart(text: string): string {
  const cleaned = oneLine(
    text
      // eslint-disable-next-line no-control-regex
      .replace(/[\u0000-\u001f\u007f-\u009f]/g, ' ')
      .replace(INVISIBLE, '')
      .replace(FORBIDDEN, '-')
      .normalize('NFC'),
  );
  const short = cutToBytes(cleaned, PART_MOST)
    .replace(/^[.\s]+/, '')
    .replace(/[.\s]+$/, '');
  return RESERVED.test(short) ? `_${short}` : short;
}

/** The longest beginning of `text` within `most` bytes of UTF-8 that does not cut through what a reader sees as one letter. */
function cutToBytes(text: string, most: number): string {
  // A unit of UTF-16 has three bytes in UTF-8 at the most.
  if (text.length * 3 <= most) return text;
  const encoder = new TextEncoder();
  const bytes = (part: string): number => encoder.encode(part).length;
  if (bytes(text) <= most) return text;
  let cut = '';
  let size = 0;
  for (const { segment } of new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(text)) {
    size += bytes(segment);
    if (size > most) break;
    cut += segment;
  }
  return cut;
}

/** Bytes that a name keeps, and that what tells it apart has, where the second stands behind the first. */
const NAME_KEPT = 110;
const BEHIND_KEPT = 60;

/** A path whose name says which of several papers of a learner it is; a blank one stays. */
export function pathSaying(path: string, what: string): string {
  const parts = path.split('/');
  const name = parts.pop() ?? '';
  const said = cutToBytes(safePart(what), BEHIND_KEPT).trim();
  if (name === '' || said === '') return path;
  return [...parts, `${cutToBytes(name, NAME_KEPT).trim()} – ${said}`].join('/');
}

/** What was done to a name so that every system takes it. */
export interface NameCheck {
  /** A sign that some system does not allow became another one. */
  readonly changed: boolean;
  /** It was too long. */
  readonly cut: boolean;
  /** The pattern gives no name. */
  readonly blank: boolean;
}

/** What `filePath` does to the name of one paper. */
export function checkName(filing: Filing, values: TextValues): NameCheck {
  const parts = rawParts(filing, values);
  const last = parts.at(-1) ?? '';
  return {
    changed: parts.some(
      (part) => part.search(FORBIDDEN) >= 0 || part.search(INVISIBLE) >= 0 || RESERVED.test(part.trim()),
    ),
    cut: parts.some((part) => cutToBytes(part.normalize('NFC'), PART_MOST) !== part.normalize('NFC')),
    blank: safePart(last) === '',
  };
}

/** The pattern filled in, cut at the `/` that were typed into it. */
function rawParts(filing: Filing, values: TextValues): string[] {
  const parts = [''];
  for (const part of filing.pattern) {
    if (part.type === 'text') {
      const [first = '', ...more] = part.text.split('/');
      parts[parts.length - 1] += first;
      parts.push(...more);
    } else parts[parts.length - 1] += values[part.attrs.fieldId] ?? '';
  }
  return parts;
}

/**
 * The path of one paper, with `/` between folders and without `.pdf`. A `/` that was typed into the pattern makes a
 * folder; one that comes from a value does not. Ends with `/`, or is empty, where the pattern gives no name.
 */
export function filePath(filing: Filing, values: TextValues): string {
  const parts = rawParts(filing, values).map(safePart);
  const name = parts.pop() ?? '';
  return [...parts.filter(Boolean), name].join('/');
}

/** True where a file bears this path, as it is or with what made it unlike another one: `aside`, or a number, or both. */
export function namedFor(fileName: string, path: string, aside = ''): boolean {
  if (path === '' || path.endsWith('/')) return fileName.startsWith(path);
  if (!fileName.startsWith(path)) return false;
  const rest = fileName.slice(path.length);
  const numbered = /^( \(\d+\))?\.pdf$/;
  const behind = pathAside('', aside);
  return (
    numbered.test(rest) ||
    (behind !== '' && rest.startsWith(behind) && numbered.test(rest.slice(behind.length)))
  );
}

/** Bytes of what tells two papers of one name apart. */
const ASIDE_KEPT = 40;

/** A path with what tells it from another one that would be called the same; as it is where that is blank. */
function pathAside(path: string, aside: string): string {
  const said = cutToBytes(safePart(aside), ASIDE_KEPT).trim();
  return said === '' ? path : `${path} (${said})`;
}

/**
 * Gives each paper a path of its own, in the order given: a path that is taken (case and accents in another coding do
 * not make a difference, as on many disks) gets what stands aside of it, such as the class, and where that is the same too
 * " (2)" and so on; one without a name gets `fallback(index)`. A file is never called as a folder of another one.
 *
 * @param kept names that papers have already and keep, by their place; of two alike the first keeps it.
 * @param others names that are taken by papers which are not among these.
 * @param asides what tells each from others that would be called the same; blank for the number alone.
 */
export function uniquePaths(
  paths: readonly string[],
  fallback: (index: number) => string,
  kept: readonly (string | undefined)[] = [],
  others: readonly string[] = [],
  asides: readonly string[] = [],
): string[] {
  const key = (path: string): string => path.normalize('NFC').toLowerCase();
  const taken = new Set(others.map(key));
  for (const path of paths) {
    const parts = path.split('/');
    for (let n = 1; n < parts.length; n++) taken.add(key(parts.slice(0, n).join('/')));
  }
  const alike = new Map<string, number>();
  for (const path of paths) alike.set(key(path), (alike.get(key(path)) ?? 0) + 1);
  const names = paths.map((_, index) => {
    const name = kept[index];
    if (name === undefined || taken.has(key(name))) return undefined;
    taken.add(key(name));
    return name;
  });
  return paths.map((given, index) => {
    if (names[index] !== undefined) return names[index];
    const own = given === '' || given.endsWith('/') ? given + safePart(fallback(index)) : given;
    const path =
      (alike.get(key(given)) ?? 0) > 1 && own === given ? pathAside(own, asides[index] ?? '') : own;
    let unique = `${path}.pdf`;
    for (let n = 2; taken.has(key(unique)); n++) unique = `${path} (${n}).pdf`;
    taken.add(key(unique));
    return unique;
  });
}
