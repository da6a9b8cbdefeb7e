import {
  insidesOf,
  partOfWords,
  withInsides,
  type Block,
  type FlowText,
  type Inline,
  type Picture,
} from './flow-text.js';

/** Every block of the text in reading order, list items' own blocks included. */
export function* blocksOf(text: FlowText | { content: readonly Block[] }): Generator<Block> {
  for (const block of text.content) {
    yield block;
    for (const content of insidesOf(block)) yield* blocksOf({ content });
  }
}

/** Every part that something in the text belongs to, as often as it stands there. */
function* partsStanding(text: FlowText): Generator<string> {
  for (const block of blocksOf(text)) {
    if (block.attrs?.part) yield block.attrs.part;
    if (block.type === 'paragraph' || block.type === 'heading')
      yield* (block.content ?? []).map(partOfWords).filter((part) => part !== null);
    if (block.type === 'table') for (const { attrs } of block.content) if (attrs?.part) yield attrs.part;
  }
}

/** Every run, field and line break of the text in reading order. */
export function* inlinesOf(text: FlowText): Generator<Inline> {
  for (const block of blocksOf(text)) {
    if (block.type === 'paragraph' || block.type === 'heading') yield* block.content ?? [];
  }
}

/** The fields of a text in reading order, as often as they stand there. */
function* fieldsStanding(text: FlowText): Generator<string> {
  for (const block of blocksOf(text)) {
    if (block.type === 'fieldBlock') yield block.attrs.fieldId;
    else if (block.type === 'paragraph' || block.type === 'heading') yield* fieldsOfLine(block.content ?? []);
  }
}

const fieldsOfLine = (line: readonly Inline[]): string[] =>
  line.flatMap((inline) => (inline.type === 'field' ? [inline.attrs.fieldId] : []));

/** The identities of the parts that blocks and words of the text belong to, each once. */
export const partsUsed = (text: FlowText): string[] => [...new Set(partsStanding(text))];

/** How often each field stands in some texts and lines, by identity, in order of first use. */
export function fieldPlaces(...texts: readonly (FlowText | readonly Inline[])[]): Map<string, number> {
  const places = new Map<string, number>();
  for (const text of texts)
    for (const id of 'content' in text ? fieldsStanding(text) : fieldsOfLine(text))
      places.set(id, (places.get(id) ?? 0) + 1);
  return places;
}

/** The identities of the fields that stand in the text or line, each once, in order of first use. */
export function fieldsUsed(text: FlowText | readonly Inline[]): string[] {
  return [...fieldPlaces(text).keys()];
}

/** The pictures of the text, each asset once. */
export function picturesOf(text: FlowText): Picture[] {
  const pictures = new Map<string, Picture>();
  for (const block of blocksOf(text)) {
    if (block.type === 'picture' && !pictures.has(block.attrs.asset)) pictures.set(block.attrs.asset, block);
  }
  return [...pictures.values()];
}

/** True where nothing would be printed. */
export function isBlank(text: FlowText): boolean {
  for (const block of blocksOf(text))
    if (['picture', 'horizontalRule', 'fieldBlock', 'signOff', 'table'].includes(block.type)) return false;
  for (const inline of inlinesOf(text)) {
    if (
      inline.type === 'field' ||
      inline.type === 'footnote' ||
      (inline.type === 'text' && inline.text.trim() !== '')
    )
      return false;
  }
  return true;
}

/** The text with another picture in each place; one that `assetOf` does not know stays. */
export function withPictures(text: FlowText, assetOf: (asset: string) => string | undefined): FlowText {
  const changed = (blocks: readonly Block[]): Block[] =>
    blocks.map((block): Block => {
      if (block.type === 'picture')
        return {
          ...block,
          attrs: { ...block.attrs, asset: assetOf(block.attrs.asset) ?? block.attrs.asset },
        };
      return withInsides(block, changed);
    });
  return { ...text, content: changed(text.content) };
}

/** What a person wrote in a line, footnotes included; nothing of what fields print. */
export const wordsOfLine = (line: readonly Inline[]): string =>
  line
    .map((inline) =>
      inline.type === 'text' ? inline.text : inline.type === 'footnote' ? inline.attrs.text : '',
    )
    .join('');
