import type { TextValues } from './plain.js';
import type { Block, FlowText, Inline, ParagraphStyle } from './flow-text.js';

/** Text made safe for HTML, in an element or an attribute. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** Text as HTML for mail readers: inline styles only, fields filled, values escaped. */
export function textHtml(text: FlowText, values: TextValues): string {
  return text.content.map((block) => blockHtml(block, values)).join('\n');
}

function blockHtml(block: Block, values: TextValues): string {
  switch (block.type) {
    case 'paragraph':
      return `<p${alignStyle(block.attrs?.textAlign, `margin:0 0 1em${lookOf(block.attrs?.style)}`)}>${inlinesHtml(block.content, values) || '&nbsp;'}</p>`;
    case 'heading': {
      const tag = `h${block.attrs.level}`;
      return `<${tag}${alignStyle(block.attrs.textAlign, 'margin:0 0 .6em')}>${inlinesHtml(block.content, values)}</${tag}>`;
    }
    case 'horizontalRule':
      return '<hr>';
    case 'picture':
    case 'pageBreak':
    case 'signOff':
      return '';
    case 'fieldBlock': {
      const lines = escapeHtml(values[block.attrs.fieldId] ?? '').replace(/\n/g, '<br>');
      return lines && `<p style="margin:0 0 1em">${lines}</p>`;
    }
    case 'bulletList':
    case 'orderedList': {
      const tag = block.type === 'bulletList' ? 'ul' : 'ol';
      const start = block.type === 'orderedList' && block.attrs?.start ? ` start="${block.attrs.start}"` : '';
      const items = block.content.map(
        (item) => `<li>${item.content.map((inner) => blockHtml(inner, values)).join('')}</li>`,
      );
      return `<${tag}${start}>${items.join('')}</${tag}>`;
    }
  }
}

/** How a kind of paragraph looks in mail. */
function lookOf(style: ParagraphStyle | null | undefined): string {
  switch (style) {
    case 'title':
      return ';font-size:1.6em;font-weight:bold';
    case 'small':
      return ';font-size:.85em;color:#55636E';
    case 'quotation':
      return ';padding-left:1.2em;font-style:italic';
    case 'signature':
      return ';font-size:1.3em;font-style:italic';
    default:
      return '';
  }
}

function alignStyle(side: string | null | undefined, base: string): string {
  return ` style="${base}${side && side !== 'left' ? `;text-align:${side}` : ''}"`;
}

function inlinesHtml(content: readonly Inline[] | undefined, values: TextValues): string {
  return (content ?? []).map((inline) => inlineHtml(inline, values)).join('');
}

function inlineHtml(inline: Inline, values: TextValues): string {
  if (inline.type === 'hardBreak') return '<br>';
  const text = inline.type === 'text' ? inline.text : (values[inline.attrs.fieldId] ?? '');
  let html = escapeHtml(text).replace(/\n/g, '<br>');
  const styles: string[] = [];
  for (const mark of inline.marks ?? []) {
    if (mark.type === 'bold') html = `<strong>${html}</strong>`;
    if (mark.type === 'italic') html = `<em>${html}</em>`;
    if (mark.type === 'underline') html = `<u>${html}</u>`;
    if (mark.type === 'textStyle' && mark.attrs.color) styles.push(`color:${mark.attrs.color}`);
    if (mark.type === 'textStyle' && mark.attrs.fontSize) styles.push(`font-size:${mark.attrs.fontSize}`);
  }
  return styles.length > 0 ? `<span style="${styles.join(';')}">${html}</span>` : html;
}
