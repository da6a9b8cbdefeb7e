/**
 * Text that comes from word processors and web pages: its structure stays, its look goes, since it takes the paper's own.
 * Headings, lists, tables, links, bold, italic, underlined and centred text are structure; typefaces, sizes and colours are not.
 */
export function pastedHtml(html: string): string {
  // The page's policy lets no style through that stands in HTML, so it is told as data, and `wearLooks` puts it on.
  const told = html.replace(/(<[a-z][^<>]*?\s)style(\s*=)/gi, `$1${LOOK}$2`);
  // What was copied here keeps all that it had.
  if (html.includes('data-pm-slice')) return told;
  const { body } = new DOMParser().parseFromString(told, 'text/html');
  for (const gone of body.querySelectorAll(
    'style, script, meta, link, title, head, img, svg, object, iframe',
  ))
    gone.remove();
  removeComments(body);
  makeLists(body);
  // What stands inside comes first, since it is looked at from outside.
  for (const element of [...body.querySelectorAll<HTMLElement>('*')].reverse()) plain(element);
  return body.innerHTML;
}

const LOOK = 'data-look';

/** Gives elements the style that `pastedHtml` told of them, for those who read it there. */
export function wearLooks(root: ParentNode): void {
  for (const element of root.querySelectorAll<HTMLElement>(`[${LOOK}]`)) {
    for (const [name, value] of looksOf(element)) element.style.setProperty(name, value);
    element.removeAttribute(LOOK);
  }
}

/** What a style says of an element, by property in small letters. */
function looksOf(element: Element): Map<string, string> {
  const said = (element.getAttribute(LOOK) ?? '').split(';').map((one) => {
    const at = one.indexOf(':');
    return [one.slice(0, at).trim().toLowerCase(), one.slice(at + 1).trim()] as const;
  });
  return new Map(said.filter(([name]) => name !== ''));
}

/** Styles of word processors that are kinds of paragraphs here. */
const STYLES: readonly (readonly [RegExp, string])[] = [
  [/^(?:MsoTitle|title)$/i, 'title'],
  [/^(?:MsoQuote|MsoIntenseQuote|quotations?)$/i, 'quotation'],
  [/^(?:MsoFootnoteText|MsoCaption|subtitle)$/i, 'small'],
];

function removeComments(root: Node): void {
  for (const child of [...root.childNodes]) {
    if (child.nodeType === Node.COMMENT_NODE) child.remove();
    else removeComments(child);
  }
}

/** One element: what of its look is structure becomes an element of its own, and the rest is left out. */
function plain(element: HTMLElement): void {
  const looks = looksOf(element);
  const side = looks.get('text-align') ?? '';
  const weight = looks.get('font-weight') ?? '';
  const bold = weight === 'bold' || weight === 'bolder' || Number(weight) >= 600;
  // Such as a wrapper that says it is bold and is not.
  const notBold = weight === 'normal' || weight === '400';
  const italic = looks.get('font-style') === 'italic';
  const underlined = /underline/.test(`${looks.get('text-decoration')} ${looks.get('text-decoration-line')}`);
  const kind = STYLES.find(([name]) => [...element.classList].some((one) => name.test(one)))?.[1];
  const kept = KEPT[element.localName] ?? [];
  for (const { name } of [...element.attributes]) if (!kept.includes(name)) element.removeAttribute(name);
  if (['center', 'right', 'justify'].includes(side)) element.setAttribute(LOOK, `text-align: ${side}`);
  if (kind && element.localName === 'p') element.dataset['style'] = kind;
  for (const [is, name] of [
    [bold, 'strong'],
    [italic, 'em'],
    [underlined && element.localName !== 'a', 'u'],
  ] as const)
    if (is) wrapInside(element, name);
  if (
    (notBold && /^(?:b|strong)$/.test(element.localName)) ||
    /^(?:font|o:p|center)$/.test(element.localName)
  )
    element.replaceWith(...element.childNodes);
  else if (/^h[456]$/.test(element.localName)) rename(element, 'h3');
  else if (element.localName === 'blockquote') quote(element);
}

/** What is kept of each element's attributes. */
const KEPT: Readonly<Record<string, readonly string[]>> = {
  a: ['href'],
  ol: ['start'],
  td: ['colspan', 'rowspan'],
  th: ['colspan', 'rowspan'],
};

function wrapInside(element: HTMLElement, name: string): void {
  // Around whole blocks it would break them up.
  if (element.querySelector('p, div, li, table, h1, h2, h3, h4, h5, h6')) return;
  const inner = element.ownerDocument.createElement(name);
  inner.append(...element.childNodes);
  element.append(inner);
}

function rename(element: HTMLElement, name: string): void {
  const other = element.ownerDocument.createElement(name);
  const look = element.getAttribute(LOOK);
  if (look) other.setAttribute(LOOK, look);
  other.append(...element.childNodes);
  element.replaceWith(other);
}

/** A quotation is a kind of paragraph. */
function quote(element: HTMLElement): void {
  const paragraphs = element.querySelectorAll<HTMLElement>('p');
  for (const one of paragraphs) one.dataset['style'] = 'quotation';
  if (paragraphs.length > 0) {
    element.replaceWith(...element.childNodes);
    return;
  }
  const only = element.ownerDocument.createElement('p');
  only.dataset['style'] = 'quotation';
  only.append(...element.childNodes);
  element.replaceWith(only);
}

const LEVEL = /mso-list:[^;"]*level(\d)/i;

/** Lists that a word processor writes as paragraphs with a mark in front become lists. */
function makeLists(body: HTMLElement): void {
  const document = body.ownerDocument;
  const levelOf = (element: Element | null): number =>
    element?.localName === 'p' ? Number(LEVEL.exec(element.getAttribute(LOOK) ?? '')?.[1] ?? 0) : 0;
  for (const first of [...body.querySelectorAll('p')]) {
    if (!first.isConnected || levelOf(first) === 0) continue;
    const open: HTMLElement[] = [];
    const place = document.createElement('div');
    first.before(place);
    for (let one: Element | null = first; one && levelOf(one) > 0;) {
      const next: Element | null = one.nextElementSibling;
      const level = Math.min(levelOf(one), open.length + 1);
      const mark = [...one.querySelectorAll<HTMLElement>('span')].find((span) =>
        /mso-list:\s*ignore/i.test(span.getAttribute(LOOK) ?? ''),
      );
      const said = mark?.textContent?.trim() ?? '';
      mark?.remove();
      open.length = Math.min(open.length, level);
      if (open.length < level) {
        const list = document.createElement(/^\(?(?:\d+|[a-z]{1,4})[.)]/i.test(said) ? 'ol' : 'ul');
        (open.at(-1)?.lastElementChild ?? open.at(-1) ?? place).append(list);
        open.push(list);
      }
      const item = document.createElement('li');
      const text = document.createElement('p');
      text.append(...one.childNodes);
      item.append(text);
      open.at(-1)!.append(item);
      one.remove();
      one = next;
    }
    place.replaceWith(...place.childNodes);
  }
}
