import type { TextValues } from './plain.js';
import type { Block, FlowText, Inline, ParagraphStyle } from './flow-text.js';

/** Text made safe for HTML, in an element or an attribute. */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/**
 * Text as HTML for mail readers: inline styles only, fields filled, values escaped. Pictures are parts of the message (RFC 2392).
 *
 * @param links fields that print addresses, which lead there.
 */
export function textHtml(text: FlowText, fields: TextValues, links: ReadonlySet<string> = NONE): string {
  const values = { fields, links };
  return text.content.map((block) => blockHtml(block, values)).join('\n');
}

interface Values {
  readonly fields: TextValues;
  readonly links: ReadonlySet<string>;
}

const NONE: ReadonlySet<string> = new Set();

/** The address of a picture inside its message, by the asset that it is. */
export const contentIdOf = (asset: string): string => `picture-${asset}@scriptum`;

/** The asset that an address inside a message means, such as `cid:picture-a@scriptum`; null where it means none. */
export const assetAt = (address: string): string | null =>
  /^cid:picture-([\w-]+)@scriptum$/.exec(address)?.[1] ?? null;

/** The assets of the pictures that HTML of ours shows, each once. */
export const assetsShown = (html: string): string[] => [
  ...new Set([...html.matchAll(/<img src="([^"]+)"/g)].flatMap(([, address = '']) => assetAt(address) ?? [])),
];

/** Dots to a millimetre, as mail programs show pictures: 96 to an inch. */
const DOTS = 96 / 25.4;

function blockHtml(block: Block, values: Values): string {
  switch (block.type) {
    case 'paragraph':
      return `<p${alignStyle(block.attrs?.textAlign, `margin:0 0 1em${lookOf(block.attrs?.style)}`)}>${inlinesHtml(block.content, values) || '&nbsp;'}</p>`;
    case 'heading': {
      const tag = `h${block.attrs.level}`;
      return `<${tag}${alignStyle(block.attrs.textAlign, 'margin:0 0 .6em')}>${inlinesHtml(block.content, values)}</${tag}>`;
    }
    case 'horizontalRule':
      return '<hr>';
    case 'picture': {
      const { asset, width, align, alt } = block.attrs;
      const dots = Math.round(width * DOTS);
      return `<p${alignStyle(align, 'margin:0 0 1em')}><img src="cid:${escapeHtml(contentIdOf(asset))}" alt="${escapeHtml(alt)}" width="${dots}" style="width:${dots}px;max-width:100%;height:auto"></p>`;
    }
    case 'pageBreak':
    case 'signOff':
      return '';
    case 'fieldBlock': {
      const lines = escapeHtml(values.fields[block.attrs.fieldId] ?? '').replace(/\n/g, '<br>');
      return lines && `<p style="margin:0 0 1em">${lines}</p>`;
    }
    case 'frame': {
      const ground = block.attrs.ground ? `;background:${block.attrs.ground}` : '';
      const line = block.attrs.line ? ';border:1px solid #D7DDDB' : '';
      const inner = block.content.map((one) => blockHtml(one, values)).join('');
      return `<div style="margin:0 0 1em;padding:${ground || line ? '1em 1em .1em' : '0'}${ground}${line}">${inner}</div>`;
    }
    case 'table': {
      const rows = block.content.map((row) => {
        const cells = row.content.map(({ type, attrs, content }) => {
          const tag = type === 'tableHeader' ? 'th' : 'td';
          const spans = (['colspan', 'rowspan'] as const)
            .map((name) => ((attrs?.[name] ?? 1) > 1 ? ` ${name}="${attrs![name]}"` : ''))
            .join('');
          return `<${tag}${spans} style="padding:.3em .8em .3em 0;vertical-align:top;text-align:left">${content.map((one) => blockHtml(one, values)).join('')}</${tag}>`;
        });
        return `<tr>${cells.join('')}</tr>`;
      });
      const layout = block.attrs?.lines === 'none' ? ' role="presentation"' : '';
      return `<table${layout} style="border-collapse:collapse;margin:0 0 1em">${rows.join('')}</table>`;
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

function inlinesHtml(content: readonly Inline[] | undefined, values: Values): string {
  return (content ?? []).map((inline) => inlineHtml(inline, values)).join('');
}

function inlineHtml(inline: Inline, values: Values): string {
  if (inline.type === 'hardBreak') return '<br>';
  if (inline.type === 'footnote') return inline.attrs.text && ` (${escapeHtml(inline.attrs.text)})`;
  const text = inline.type === 'text' ? inline.text : (values.fields[inline.attrs.fieldId] ?? '');
  let html = escapeHtml(text).replace(/\n/g, '<br>');
  if (inline.type === 'field' && values.links.has(inline.attrs.fieldId))
    html = html.replace(/https?:\/\/[^\s<]*[^\s<.,;:!?)]/g, '<a href="$&">$&</a>');
  const styles: string[] = [];
  for (const mark of inline.marks ?? []) {
    if (mark.type === 'bold') html = `<strong>${html}</strong>`;
    if (mark.type === 'italic') html = `<em>${html}</em>`;
    if (mark.type === 'underline') html = `<u>${html}</u>`;
    if (mark.type === 'link') html = `<a href="${escapeHtml(mark.attrs.href)}">${html}</a>`;
    if (mark.type === 'textStyle' && mark.attrs.color) styles.push(`color:${mark.attrs.color}`);
    if (mark.type === 'textStyle' && mark.attrs.fontSize) styles.push(`font-size:${mark.attrs.fontSize}`);
  }
  return styles.length > 0 ? `<span style="${styles.join(';')}">${html}</span>` : html;
}
