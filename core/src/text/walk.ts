import type { Block, FlowText, Inline, Picture } from './flow-text.js';

/** Every block of the text in reading order, list items' own blocks included. */
export function* blocksOf(text: FlowText | { content: readonly Block[] }): Generator<Block> {
  for (const block of text.content) {
    yield block;
    if (block.type === 'bulletList' || block.type === 'orderedList') {
      for (const item of block.content) yield* blocksOf(item);
    }
  }
}

/** Every run, field and line break of the text in reading order. */
export function* inlinesOf(text: FlowText): Generator<Inline> {
  for (const block of blocksOf(text)) {
    if (block.type === 'paragraph' || block.type === 'heading') yield* block.content ?? [];
  }
}

/** The identities of the parts that blocks of the text belong to, each once. */
export const partsUsed = (text: FlowText): string[] => [
  ...new Set([...blocksOf(text)].flatMap((block) => block.attrs?.part ?? [])),
];

/** How often each field stands in some texts and lines, by identity, in order of first use. */
export function fieldPlaces(...texts: readonly (FlowText | readonly Inline[])[]): Map<string, number> {
  const places = new Map<string, number>();
  for (const text of texts)
    for (const inline of 'content' in text ? inlinesOf(text) : text)
      if (inline.type === 'field')
        places.set(inline.attrs.fieldId, (places.get(inline.attrs.fieldId) ?? 0) + 1);
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
    if (block.type === 'picture' || block.type === 'horizontalRule') return false;
  for (const inline of inlinesOf(text)) {
    if (inline.type === 'field' || (inline.type === 'text' && inline.text.trim() !== '')) return false;
  }
  return true;
}
