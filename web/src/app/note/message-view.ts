import { assetAt } from '@scriptum/core/text';
import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from '@angular/core';

/** What a message of ours is made of; nothing else is shown. */
const SHOWN = new Set(
  'a b blockquote br code div em h1 h2 h3 h4 h5 h6 hr i img li ol p s span strong sub sup table tbody td th thead tr u ul'.split(
    ' ',
  ),
);
const KEPT = ['colspan', 'rowspan', 'start', 'role', 'dir', 'lang'];

/**
 * The HTML of a message as a mail program shows it, apart from the styles of the page around. The page's policy lets no style
 * through that stands in HTML, so each is put on by itself.
 */
@Component({
  selector: 'sc-message-view',
  template: '',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MessageView {
  readonly html = input.required<string>();
  /** Where a picture of the folio is. */
  readonly pictureUrl = input<(asset: string) => string>(() => '');

  private readonly root = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement.attachShadow({
    mode: 'open',
  });

  constructor() {
    effect(() => {
      // A style that is parsed is refused, and reported, even where nothing shows it. What people type has no such signs here.
      const html = this.html().replaceAll(' style="', ' data-look="');
      const { body, documentElement } = new DOMParser().parseFromString(html, 'text/html');
      const box = document.createElement('div');
      box.lang = documentElement.lang;
      box.dir = documentElement.dir || 'auto';
      // Nothing of the page's own look is handed down.
      box.style.cssText = 'all: initial; display: block; overflow-wrap: anywhere';
      box.append(...shownOf(body, this.pictureUrl()));
      this.root.replaceChildren(box);
    });
  }
}

function shownOf(parent: Node, urlOf: (asset: string) => string): Node[] {
  return [...parent.childNodes].flatMap((node): Node[] => {
    if (node.nodeType === Node.TEXT_NODE) return [document.createTextNode(node.textContent ?? '')];
    if (!(node instanceof HTMLElement)) return [];
    const tag = node.tagName.toLowerCase();
    if (!SHOWN.has(tag)) return [];
    const copy = document.createElement(tag);
    copy.style.cssText = node.dataset['look'] ?? '';
    for (const name of KEPT) if (node.hasAttribute(name)) copy.setAttribute(name, node.getAttribute(name)!);
    // Shown, and led nowhere: where a link goes stands beside it.
    if (tag === 'a') {
      copy.title = node.getAttribute('href') ?? '';
      copy.style.color = '#0B4F8A';
      copy.style.textDecoration = 'underline';
    }
    if (copy instanceof HTMLImageElement) {
      // A picture is a part of the message; what lies elsewhere is not shown.
      const asset = assetAt(node.getAttribute('src') ?? '');
      if (asset === null) return [];
      copy.alt = node.getAttribute('alt') ?? '';
      copy.src = urlOf(asset);
    }
    copy.append(...shownOf(node, urlOf));
    return [copy];
  });
}
