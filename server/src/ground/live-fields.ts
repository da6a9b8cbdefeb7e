import {
  PDFArray,
  PDFDict,
  PDFName,
  PDFNumber,
  PDFRef,
  type PDFDocument,
  type PDFObjectCopier,
  type PDFPage,
} from '@cantoo/pdf-lib';

/** What a prepared page's content without its fields is called; where there are none it has no such thing. */
export const BARE = 'ScriptumBare';

/** How the boxes of a page's annotations are moved with its content. */
export interface PlaceOfPage {
  readonly left: number;
  readonly bottom: number;
  readonly unit: number;
}

const name = (of: string): PDFName => PDFName.of(of);

/** What of a field does something by itself, or names what is not there any more: actions, structure, its page, its layer. */
const LEFT_OUT = ['A', 'AA', 'StructParent', 'P', 'OC'].map(name);
const WIDGET = name('Widget');

/**
 * The fields of a PDF's form, which go over into another one as they are (ISO 32000-1, 12.7), without what they would do by
 * themselves. They have to be taken before they become part of their pages.
 */
export class LiveFields {
  private readonly widgets = new Map<number, PDFRef[]>();

  private constructor(
    private readonly source: PDFDocument,
    private readonly acro: PDFDict,
  ) {}

  /** @returns null where there are none that can be filled in. Signed ones, and buttons, are none. */
  static of(source: PDFDocument): LiveFields | null {
    const acro = source.catalog.lookupMaybe(name('AcroForm'), PDFDict);
    const fields = acro?.lookupMaybe(name('Fields'), PDFArray);
    if (!acro || !fields || fields.size() === 0) return null;
    const live = new LiveFields(source, acro);
    live.clean(fields, new Set());
    for (const [n, page] of source.getPages().entries()) live.widgets.set(n, live.widgetsOf(page));
    return [...live.widgets.values()].some((some) => some.length > 0) ? live : null;
  }

  private clean(fields: PDFArray, seen: Set<PDFDict>): void {
    for (let n = fields.size() - 1; n >= 0; n--) {
      const field = fields.lookup(n);
      if (!(field instanceof PDFDict) || seen.has(field) || field.get(name('FT')) === name('Sig')) {
        fields.remove(n);
        continue;
      }
      seen.add(field);
      for (const key of LEFT_OUT) field.delete(key);
      const kids = field.lookupMaybe(name('Kids'), PDFArray);
      if (kids) this.clean(kids, seen);
    }
  }

  private widgetsOf(page: PDFPage): PDFRef[] {
    const annotations = page.node.Annots()?.asArray() ?? [];
    return annotations.filter((one): one is PDFRef => {
      if (!(one instanceof PDFRef)) return false;
      const widget = this.source.context.lookup(one);
      if (!(widget instanceof PDFDict) || widget.get(name('Subtype')) !== WIDGET) return false;
      // One that says nowhere where it stands is seen nowhere.
      if (!(widget.lookup(name('Rect')) instanceof PDFArray)) return false;
      const kind = widget.get(name('FT')) ?? widget.lookupMaybe(name('Parent'), PDFDict)?.get(name('FT'));
      return kind !== name('Sig');
    });
  }

  /** The form without its pages, for the other PDF; beside the one that it may have. */
  copyForm(target: PDFDocument, copier: PDFObjectCopier): void {
    const there = target.catalog
      .lookupMaybe(name('AcroForm'), PDFDict)
      ?.lookupMaybe(name('Fields'), PDFArray);
    if (there) {
      for (const field of this.acro.lookup(name('Fields'), PDFArray).asArray())
        there.push(copier.copy(field));
      return;
    }
    const form = target.context.obj({});
    for (const key of ['Fields', 'DR', 'DA', 'Q']) {
      const value = this.acro.get(name(key));
      if (value) form.set(name(key), copier.copy(value));
    }
    target.catalog.set(name('AcroForm'), target.context.register(form));
  }

  /** The fields of one page, on a page of the other PDF, each where it was seen. */
  copyPage(n: number, added: PDFPage, copier: PDFObjectCopier, { left, bottom, unit }: PlaceOfPage): void {
    const widgets = (this.widgets.get(n) ?? []).map((widget) => copier.copy(widget));
    if (widgets.length === 0) return;
    const { context } = added.doc;
    for (const reference of widgets) {
      const widget = context.lookup(reference, PDFDict);
      const box = widget.lookup(name('Rect'), PDFArray).asRectangle();
      const [x, y] = [(box.x - left) * unit, (box.y - bottom) * unit];
      widget.set(name('Rect'), context.obj([x, y, x + box.width * unit, y + box.height * unit]));
      // Shown, printed, neither hidden nor only on screen.
      widget.set(name('F'), PDFNumber.of(4));
    }
    added.node.set(name('Annots'), context.obj(widgets));
  }
}
