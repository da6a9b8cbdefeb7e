import { partOfWords, type Block, type FlowText, type Inline } from './flow-text.js';

/** What goes out with a field that is blank: the sentence or the line that it stands in; null where only the field is blank. */
export type GoesOut = 'sentence' | 'line' | null;

/** How blank fields take others with them, and the language in which sentences are told apart (BCP 47). */
export interface BlankRules {
  readonly language: string;
  readonly goesOut: (fieldId: string) => GoesOut;
}

/**
 * A sentence, a line that is not cut into sentences, or what of it belongs to a part. It goes out where one of its
 * sentence's fields is blank, and where its part does not stand.
 */
export interface Stretch {
  readonly inlines: readonly Inline[];
  readonly goesWith: readonly string[];
  readonly part: string | null;
}

/** What stands between two line breaks. It goes out where one of its fields is blank, and where all its stretches are out. */
export interface Line {
  readonly stretches: readonly Stretch[];
  readonly goesWith: readonly string[];
}

/** A paragraph as lines of stretches, by what can go out of it. */
export function linesOf(content: readonly Inline[], { language, goesOut }: BlankRules): Line[] {
  return cutAtBreaks(content).map((bare) => {
    const inlines = withSpaces(bare);
    const goesWith = fieldsThatTake('line', inlines, goesOut);
    const sentences =
      fieldsThatTake('sentence', inlines, goesOut).length > 0 ? cutSentences(inlines, language) : [inlines];
    const stretches = sentences.flatMap((one): Stretch[] => {
      const taken = fieldsThatTake('sentence', one, goesOut);
      return cutParts(one).map((stretch) => ({ ...stretch, goesWith: taken }));
    });
    return { stretches, goesWith };
  });
}

/** The text without what goes out of it for one entry, with a blank field or a part that does not stand. Nothing empty is left. */
export function withoutBlank(
  text: FlowText,
  rules: BlankRules,
  isBlank: (fieldId: string) => boolean,
  stands: (partId: string) => boolean = () => true,
): FlowText {
  const kept = (blocks: readonly Block[]): Block[] =>
    blocks.flatMap((block): Block[] => {
      if (block.attrs?.part && !stands(block.attrs.part)) return [];
      switch (block.type) {
        case 'paragraph':
        case 'heading': {
          const content = remaining(block.content ?? [], rules, isBlank, stands);
          return content === null
            ? []
            : content === block.content
              ? [block]
              : [{ ...block, content: [...content] }];
        }
        case 'bulletList':
        case 'orderedList': {
          const items = block.content
            .map((item) => ({ item, content: kept(item.content) }))
            .filter(({ item, content }) => content.length > 0 || item.content.length === 0)
            .map(({ item, content }) => ({ ...item, content }));
          return items.length === 0 && block.content.length > 0 ? [] : [{ ...block, content: items }];
        }
        case 'frame': {
          const content = kept(block.content);
          return content.length === 0 ? [] : [{ ...block, content }];
        }
        case 'table': {
          const rows = block.content
            .filter(({ attrs }) => !attrs?.part || stands(attrs.part))
            .map((row) => ({
              ...row,
              content: row.content.map((cell) => ({ ...cell, content: kept(cell.content) })),
            }));
          return rows.length === 0 ? [] : [{ ...block, content: rows }];
        }
        case 'fieldBlock':
          return isBlank(block.attrs.fieldId) ? [] : [block];
        default:
          return [block];
      }
    });
  return { ...text, content: kept(text.content) };
}

/** What is left of a line of text, or of a paragraph, for one entry; null where all of it is out. */
export function remaining(
  content: readonly Inline[],
  rules: BlankRules,
  isBlank: (fieldId: string) => boolean,
  stands: (partId: string) => boolean = () => true,
): readonly Inline[] | null {
  if (!goesOutSomewhere(content, rules)) return content;
  const lines = linesOf(content, rules).flatMap(({ stretches, goesWith }): Inline[][] => {
    if (goesWith.some(isBlank)) return [];
    const kept = stretches.filter(
      ({ goesWith: taken, part }) => !taken.some(isBlank) && (part === null || stands(part)),
    );
    return kept.length === 0 ? [] : [kept.flatMap(({ inlines }) => inlines)];
  });
  if (lines.length === 0) return null;
  return lines.flatMap((line, n): Inline[] => (n === 0 ? line : [{ type: 'hardBreak' }, ...line]));
}

/** True where something may go out. */
export const goesOutSomewhere = (content: readonly Inline[], { goesOut }: BlankRules): boolean =>
  content.some(
    (one) => partOfWords(one) !== null || (one.type === 'field' && goesOut(one.attrs.fieldId) !== null),
  );

/** Words that belong to one part, or to none, after each other. */
function cutParts(inlines: readonly Inline[]): { inlines: Inline[]; part: string | null }[] {
  const runs: { inlines: Inline[]; part: string | null }[] = [];
  for (const inline of inlines) {
    const part = partOfWords(inline);
    const last = runs.at(-1);
    if (last?.part === part) last.inlines.push(inline);
    else runs.push({ inlines: [inline], part });
  }
  return runs.length === 0 ? [{ inlines: [], part: null }] : runs;
}

/**
 * A line in which words that may go out have the space behind them with them, where there is one before them too: two
 * spaces would be left where they stood.
 */
function withSpaces(line: readonly Inline[]): Inline[] {
  const after: Inline[] = [];
  for (const inline of line) {
    const words = after.at(-1);
    const marks = words?.marks?.filter((mark) => mark.type === 'part') ?? [];
    const ends = words?.type === 'text' && /\s$/.test(words.text);
    const space = inline.type === 'text' ? (/^\s+/.exec(inline.text)?.[0] ?? '') : '';
    if (!words || marks.length === 0 || ends || space === '' || partOfWords(inline) === partOfWords(words)) {
      after.push(inline);
      continue;
    }
    const first = startOfPart(after);
    const before = after[first - 1];
    const spaced = !before || (before.type === 'text' && /\s$/.test(before.text));
    if (!spaced || inline.type !== 'text') {
      after.push(inline);
      continue;
    }
    after.push({ type: 'text', text: space, marks });
    if (inline.text.length > space.length) after.push({ ...inline, text: inline.text.slice(space.length) });
  }
  return after;
}

/** Where the words of the last part begin. */
function startOfPart(inlines: readonly Inline[]): number {
  const part = partOfWords(inlines.at(-1)!);
  let first = inlines.length - 1;
  while (first > 0 && partOfWords(inlines[first - 1]!) === part) first--;
  return first;
}

function fieldsThatTake(
  what: 'sentence' | 'line',
  inlines: readonly Inline[],
  goesOut: (fieldId: string) => GoesOut,
): string[] {
  const ids = inlines.flatMap((one) => (one.type === 'field' ? [one.attrs.fieldId] : []));
  return [...new Set(ids)].filter((id) => goesOut(id) === what);
}

function cutAtBreaks(content: readonly Inline[]): Inline[][] {
  const lines: Inline[][] = [[]];
  for (const inline of content) {
    if (inline.type === 'hardBreak') lines.push([]);
    else lines.at(-1)!.push(inline);
  }
  return lines;
}

/** Stands for a field where sentences are looked for: a word, so that a full stop behind it ends a sentence. */
const WORD = 'Xx';

/** A line in its sentences, each with the space behind it (UAX 29, 5). */
function cutSentences(inlines: readonly Inline[], language: string): Inline[][] {
  const said = inlines.map((one) => (one.type === 'text' ? one.text : one.type === 'footnote' ? '' : WORD));
  const ends = [...new Intl.Segmenter(language, { granularity: 'sentence' }).segment(said.join(''))].map(
    ({ index, segment }) => index + segment.length,
  );
  const sentences: Inline[][] = [[]];
  let at = 0;
  let next = 0;
  for (const [n, inline] of inlines.entries()) {
    if (inline.type === 'footnote') {
      sentences.at(-1)!.push(inline);
      continue;
    }
    let rest = said[n]!;
    while (next < ends.length - 1 && ends[next]! <= at + rest.length) {
      // A field is never cut: one in which a sentence would end belongs to the sentence before.
      const length = inline.type === 'text' ? ends[next]! - at : rest.length;
      push(sentences, inline, rest.slice(0, length));
      sentences.push([]);
      rest = rest.slice(length);
      at += length;
      next++;
    }
    push(sentences, inline, rest);
    at += rest.length;
  }
  return sentences.filter((sentence) => sentence.length > 0);
}

function push(sentences: Inline[][], inline: Inline, text: string): void {
  if (text === '') return;
  sentences.at(-1)!.push(inline.type === 'text' ? { ...inline, text } : inline);
}
