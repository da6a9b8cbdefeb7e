import type { Block, FlowText, Inline } from './flow-text.js';

/** The printed text of each field, by field identity. */
export type TextValues = Readonly<Record<string, string>>;

/** Text as plain text, for mail readers that show no HTML. Blank lines between blocks. */
export function textPlain(text: FlowText, values: TextValues): string {
  return text.content
    .map((block) => blockPlain(block, values))
    .filter((part) => part !== null)
    .join('\n\n')
    .trim();
}

function blockPlain(block: Block, values: TextValues): string | null {
  switch (block.type) {
    case 'paragraph':
    case 'heading':
      return linePlain(block.content ?? [], values);
    case 'horizontalRule':
      return '----';
    case 'picture':
    case 'pageBreak':
    case 'signOff':
      return null;
    case 'fieldBlock':
      return values[block.attrs.fieldId] || null;
    case 'frame':
      return textPlain({ type: 'doc', content: block.content }, values);
    case 'table':
      return block.content
        .map((row) =>
          row.content.map((cell) => textPlain({ type: 'doc', content: cell.content }, values)).join('\t'),
        )
        .join('\n');
    case 'bulletList':
    case 'orderedList': {
      const first = block.attrs?.start ?? 1;
      return block.content
        .map((item, n) => {
          const bullet = block.type === 'bulletList' ? '- ' : `${first + n}. `;
          const body = item.content.map((inner) => blockPlain(inner, values) ?? '').join('\n');
          return bullet + body.replace(/\n/g, `\n${' '.repeat(bullet.length)}`);
        })
        .join('\n');
    }
  }
}

/** Runs and fields as they read, without formatting. */
export function linePlain(line: readonly Inline[], values: TextValues): string {
  return line
    .map((inline) => {
      if (inline.type === 'hardBreak') return '\n';
      if (inline.type === 'footnote') return inline.attrs.text && ` (${inline.attrs.text})`;
      if (inline.type === 'field') return values[inline.attrs.fieldId] ?? '';
      // Where a link says something else than its address, both are told.
      const href = inline.marks?.find((mark) => mark.type === 'link')?.attrs.href;
      return href && !href.endsWith(inline.text) ? `${inline.text} <${href}>` : inline.text;
    })
    .join('');
}
