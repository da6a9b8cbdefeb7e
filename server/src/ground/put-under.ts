import {
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFName,
  PDFObjectCopier,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import { BARE, LiveFields } from './live-fields.js';
import type { FieldValue, Under } from '../store/laid-on.js';

/** A prepared ground that was read, and the fields of its form, if it has any. */
interface Read {
  readonly document: PDFDocument;
  readonly live: LiveFields | null;
}

/** Prepared grounds that were read, by their bytes: many papers lie on one. */
const grounds = new WeakMap<Uint8Array, Promise<Read>>();

function readGround(bytes: Uint8Array): Promise<Read> {
  let known = grounds.get(bytes);
  if (!known) {
    known = PDFDocument.load(bytes, { updateMetadata: false }).then((document) => ({
      document,
      live: LiveFields.of(document),
    }));
    grounds.set(bytes, known);
  }
  return known;
}

/**
 * Puts prepared grounds under the pages of a file, as artifacts, which readers for the blind pass over (ISO 14289-1, 7.1).
 * Tags, title and what the file claims stay. A ground that several pages stand on is in the file once. Each lies at the upper
 * left corner of the paper, as it does on screen.
 *
 * @param under what lies under the last pages of the file.
 * @param beyond points that pages reach beyond the paper on each side, with bleed and marks.
 * @param fields what the fields of the grounds are filled with, where they stay fields; else they are part of their pages.
 */
export async function putUnder(
  file: Uint8Array,
  from: readonly Uint8Array[],
  under: readonly Under[],
  beyond = 0,
  fields?: readonly FieldValue[],
): Promise<Uint8Array> {
  const document = await PDFDocument.load(file, { updateMetadata: false });
  const grounds = new GroundsOf(document, fields !== undefined);
  for (const [page, wanted] of lastPages(document.getPages(), under)) {
    const bytes = wanted && from[wanted.ground];
    if (bytes) await grounds.put(page, bytes, wanted.page, beyond);
  }
  if (fields && grounds.haveFields) {
    const { fillForm } = await import('./fill-form.js');
    await fillForm(document, fields);
  }
  return document.save({ useObjectStreams: true, addDefaultPage: false, updateFieldAppearances: false });
}

/** The last pages of a file with what lies under each: a letter of any length stands before pages that lie on something. */
export const lastPages = (pages: readonly PDFPage[], under: readonly Under[]): [PDFPage, Under][] =>
  under.flatMap((one, n): [PDFPage, Under][] => {
    const page = pages[pages.length - under.length + n];
    return page ? [[page, one]] : [];
  });

/** Prepared grounds in one file: each of their pages is copied once, however many lie on it. */
export class GroundsOf {
  private readonly copies = new Map<Uint8Array, CopiedGround>();

  /** @param fillable whether their fields stay fields. */
  constructor(
    private readonly document: PDFDocument,
    private readonly fillable = false,
  ) {}

  get haveFields(): boolean {
    return [...this.copies.values()].some(({ live }) => live);
  }

  /** @param beyond points that the page reaches beyond the paper on each side. */
  async put(page: PDFPage, ground: Uint8Array, wanted: number, beyond: number): Promise<void> {
    let copy = this.copies.get(ground);
    if (!copy) {
      copy = new CopiedGround(await readGround(ground), this.document, this.fillable);
      this.copies.set(ground, copy);
    }
    copy.putUnder(page, wanted, beyond);
  }
}

class CopiedGround {
  private readonly copier: PDFObjectCopier;
  private readonly copied = new Map<number, PDFRef>();
  /** Its fields, where they stay fields. */
  readonly live: LiveFields | null;

  constructor(
    private readonly ground: Read,
    document: PDFDocument,
    fillable: boolean,
  ) {
    this.copier = PDFObjectCopier.for(ground.document.context, document.context);
    this.live = fillable ? ground.live : null;
    this.live?.copyForm(document, this.copier);
  }

  putUnder(page: PDFPage, wanted: number, beyond: number): void {
    const from = this.ground.document.getPages()[wanted];
    const forms = from?.node.Resources()?.lookup(PDFName.of('XObject'), PDFDict);
    const form = (this.live && forms?.get(PDFName.of(BARE))) ?? forms?.get(PDFName.of('Ground'));
    if (!from || !form) return;
    const low = page.getHeight() - beyond - from.getHeight();
    let reference = this.copied.get(wanted);
    if (!reference) {
      this.copied.set(wanted, (reference = this.copier.copy(form) as PDFRef));
      // A field stands on one page only.
      this.live?.copyPage(wanted, page, this.copier, { left: -beyond, bottom: -low, unit: 1 });
    }
    draw(page, reference, beyond, low);
  }
}

/** Draws a form XObject under all that a page has. */
function draw({ node, doc: { context } }: PDFPage, form: PDFRef, x: number, y: number): void {
  const resources = node.Resources() ?? context.obj({});
  const forms = resources.lookupMaybe(PDFName.of('XObject'), PDFDict) ?? context.obj({});
  // Pages may share their resources.
  const name = `ScriptumGround${form.objectNumber}`;
  forms.set(PDFName.of(name), form);
  resources.set(PDFName.of('XObject'), forms);
  node.set(PDFName.of('Resources'), resources);
  const drawn = context.register(
    context.stream(`/Artifact BMC q 1 0 0 1 ${x.toFixed(3)} ${y.toFixed(3)} cm /${name} Do Q EMC`),
  );
  const contents = node.get(PDFName.of('Contents'));
  const all = node.Contents();
  const rest = contents === undefined ? [] : all instanceof PDFArray ? all.asArray() : [contents];
  node.set(PDFName.of('Contents'), context.obj([drawn, ...rest]));
}

const weights = new WeakMap<Uint8Array, Map<number, Promise<number>>>();

/** About how many bytes longer a file becomes by what is put under its pages. */
export async function weightUnder(from: readonly Uint8Array[], under: readonly Under[]): Promise<number> {
  const wanted = new Map(under.flatMap((one) => (one ? [[`${one.ground} ${one.page}`, one] as const] : [])));
  let sum = 0;
  for (const { ground, page } of wanted.values()) {
    const bytes = from[ground];
    if (!bytes) continue;
    const known = weights.get(bytes) ?? new Map<number, Promise<number>>();
    weights.set(bytes, known);
    let weight = known.get(page);
    if (!weight) known.set(page, (weight = weigh(bytes, page)));
    sum += await weight;
  }
  return sum;
}

async function weigh(ground: Uint8Array, page: number): Promise<number> {
  const document = await PDFDocument.create({ updateMetadata: false });
  document.addPage([72, 72]);
  const empty = await document.save();
  return (await putUnder(empty, [ground], [{ ground: 0, page }])).length - empty.length;
}
