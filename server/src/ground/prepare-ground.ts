import {
  decodePDFRawStream,
  EncryptedPDFError,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFFlateStream,
  PDFName,
  PDFNumber,
  PDFObjectCopier,
  PDFRawStream,
  PDFRef,
  PDFStream,
  type PDFObject,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { refuse, succeed, type Result } from '@scriptum/core/table';
import type { GroundAbout } from '@scriptum/core/template';
import { cleaned } from './content-stream.js';
import { BARE, LiveFields } from './live-fields.js';

/** A PDF whose pages can lie under others. */
export interface PreparedGround {
  /** Each page upright, at its true size, its content one form XObject called `/Ground`. */
  readonly bytes: Uint8Array;
  readonly about: GroundAbout;
}

/** Pages that there may be, and the longest side of one in millimetres. */
const PAGES_MOST = 50;
const SIDE_MOST = 2000;
const SIDE_LEAST = 20;
const MM = 25.4 / 72;

/**
 * Makes a PDF ready to be the ground of pages, once for all papers: fields become what they show, pages stand upright in the
 * size of their crop box, marks of its own structure and layers that are off are taken out.
 *
 * Refuses with `ground-locked`, `ground-damaged`, `ground-pages`, `ground-size`, `ground-xfa`.
 */
export async function prepareGround(file: Uint8Array): Promise<Result<PreparedGround>> {
  let source: PDFDocument;
  try {
    // Files that only forbid changes open with no password at all.
    source = await PDFDocument.load(file, {
      password: '',
      updateMetadata: false,
      throwOnInvalidObject: false,
    });
  } catch (error) {
    const locked = error instanceof EncryptedPDFError || /password|encrypt/i.test((error as Error).message);
    return refuse(locked ? 'ground-locked' : 'ground-damaged');
  }
  try {
    return await prepared(source);
  } catch {
    return refuse('ground-damaged');
  }
}

async function prepared(source: PDFDocument): Promise<Result<PreparedGround>> {
  const count = source.getPageCount();
  if (count === 0) return refuse('ground-damaged');
  if (count > PAGES_MOST) return refuse('ground-pages', { pages: count, most: PAGES_MOST });
  const target = await PDFDocument.create({ updateMetadata: false });
  const copier = PDFObjectCopier.for(source.context, target.context);
  // A page that is turned would turn what is written into its fields.
  const live = source.getPages().some((page) => page.getRotation().angle % 360 !== 0)
    ? null
    : LiveFields.of(source);
  live?.copyForm(target, copier);
  const bare = live ? source.getPages().map(contentOf) : [];
  const fields = flattened(source);
  if (fields === 'xfa') return refuse('ground-xfa');
  const off = layersOff(source);
  const pages: { width: number; height: number }[] = [];
  let [shows, embedded] = [false, true];
  for (const page of source.getPages()) {
    const looked = looksOf(page);
    const { width, height } = looked;
    if (Math.max(width, height) * MM > SIDE_MOST || Math.min(width, height) * MM < SIDE_LEAST)
      return refuse('ground-size', {
        page: pages.length + 1,
        width: Math.round(width * MM),
        height: Math.round(height * MM),
      });
    const resources = page.node.Resources();
    const content = cleaned(contentOf(page), (name) => isOff(resources, name, off));
    const inner = resources ? cleanResources(source, resources, off) : { shows: false, embedded: true };
    shows ||= content.shows || inner.shows;
    embedded &&= inner.embedded;
    const group = page.node.lookupMaybe(PDFName.of('Group'), PDFDict);
    const form = target.context.flateStream(content.bytes, {
      Type: 'XObject',
      Subtype: 'Form',
      BBox: looked.crop,
      Matrix: looked.matrix,
      Resources: resources ? copier.copy(resources) : {},
      ...(group ? { Group: copier.copy(group) } : {}),
    });
    const added = target.addPage([width, height]);
    const forms = target.context.obj({ Ground: target.context.register(form) });
    if (live) {
      const open = cleaned(bareOf(bare[pages.length]!, resources), (name) => isOff(resources, name, off));
      const stream = target.context.flateStream(open.bytes);
      for (const [key, value] of form.dict.entries())
        if (!['Length', 'Filter'].includes(key.decodeText())) stream.dict.set(key, value);
      forms.set(PDFName.of(BARE), target.context.register(stream));
      live.copyPage(pages.length, added, copier, looked);
    }
    added.node.set(PDFName.of('Resources'), target.context.obj({ XObject: forms }));
    added.node.set(PDFName.of('Contents'), target.context.register(target.context.stream('/Ground Do')));
    pages.push({ width: rounded(width * MM), height: rounded(height * MM) });
  }
  const about: GroundAbout = {
    pages,
    notices: [
      ...(shows ? [] : ['scan' as const]),
      ...(off.size > 0 ? ['layers' as const] : []),
      ...(embedded ? [] : ['fonts' as const]),
      ...(fields > 0 ? ['fields' as const] : []),
    ],
    embedded,
    ...(live ? { fillable: true } : {}),
  };
  return succeed({ bytes: await target.save({ useObjectStreams: true, addDefaultPage: false }), about });
}

/** A page's content without its fields. What was made ready by Scriptum before holds it beside the one with them. */
const bareOf = (content: Uint8Array, resources: PDFDict | undefined): Uint8Array =>
  resources?.lookupMaybe(PDFName.of('XObject'), PDFDict)?.has(PDFName.of(BARE))
    ? Buffer.from(`/${BARE} Do`)
    : content;

const rounded = (mm: number): number => Math.round(mm * 100) / 100;

/** Form fields as they look, as part of their pages. @returns how many there were; `xfa` for forms that say so and show nothing. */
function flattened(source: PDFDocument): number | 'xfa' {
  const acro = source.catalog.lookupMaybe(PDFName.of('AcroForm'), PDFDict);
  if (!acro) return 0;
  const xfa = PDFName.of('XFA');
  // Dynamic forms have one page, which asks for another program (ISO 32000-1, 12.7.8).
  if (acro.has(xfa) && source.catalog.has(PDFName.of('NeedsRendering'))) return 'xfa';
  acro.delete(xfa);
  const form = source.getForm();
  const count = form.getFields().length;
  try {
    form.flatten({ updateFieldAppearances: false });
  } catch {
    // What cannot be drawn into its page is left out; the page itself is there.
  }
  return count;
}

/** Identities of the layers that are off when the file is opened (ISO 32000-1, 8.11.4.3). */
function layersOff(source: PDFDocument): ReadonlySet<string> {
  const usual = source.catalog
    .lookupMaybe(PDFName.of('OCProperties'), PDFDict)
    ?.lookupMaybe(PDFName.of('D'), PDFDict);
  const off = usual?.lookupMaybe(PDFName.of('OFF'), PDFArray);
  return new Set(off?.asArray().map(String) ?? []);
}

const isOff = (resources: PDFDict | undefined, name: string, off: ReadonlySet<string>): boolean => {
  const property = resources?.lookupMaybe(PDFName.of('Properties'), PDFDict)?.get(PDFName.of(name));
  return property !== undefined && off.has(String(property));
};

/** How a page is looked at: its size as it is shown, the box of its content, and how that is turned into it. */
function looksOf(page: PDFPage): {
  readonly width: number;
  readonly height: number;
  /** The lower left corner of what is shown, in units of the page, and how many points one is. */
  readonly left: number;
  readonly bottom: number;
  readonly unit: number;
  readonly crop: [number, number, number, number];
  readonly matrix: [number, number, number, number, number, number];
} {
  const media = page.getMediaBox();
  const asked = page.getCropBox();
  // No more than there is (ISO 32000-1, 14.11.2.1).
  const left = Math.max(media.x, asked.x);
  const bottom = Math.max(media.y, asked.y);
  const right = Math.min(media.x + media.width, asked.x + asked.width);
  const top = Math.min(media.y + media.height, asked.y + asked.height);
  const unit = page.node.lookupMaybe(PDFName.of('UserUnit'), PDFNumber)?.asNumber() ?? 1;
  const turn = ((Math.round(page.getRotation().angle / 90) % 4) + 4) % 4;
  const [w, h] = [(right - left) * unit, (top - bottom) * unit];
  const [x, y] = [left * unit, bottom * unit];
  const matrices: [number, number, number, number, number, number][] = [
    [unit, 0, 0, unit, -x, -y],
    [0, -unit, unit, 0, -y, x + w],
    [-unit, 0, 0, -unit, x + w, y + h],
    [0, unit, -unit, 0, y + h, -x],
  ];
  const upright = turn % 2 === 0;
  return {
    width: upright ? w : h,
    height: upright ? h : w,
    left,
    bottom,
    unit,
    crop: [left, bottom, right, top],
    matrix: matrices[turn]!,
  };
}

/** All content of a page as one stream. */
function contentOf(page: PDFPage): Uint8Array {
  const contents = page.node.Contents();
  const streams =
    contents instanceof PDFArray ? contents.asArray().map((_, n) => contents.lookup(n)) : [contents];
  return Buffer.concat(
    streams.flatMap((stream) => (stream instanceof PDFStream ? [bytesOf(stream), Buffer.from('\n')] : [])),
  );
}

function bytesOf(stream: PDFStream): Uint8Array {
  if (stream instanceof PDFRawStream) return decodePDFRawStream(stream).decode();
  return stream instanceof PDFFlateStream ? stream.getUnencodedContents() : stream.getContents();
}

/** Cleans the form XObjects of some resources, in place, and looks what they show and in which fonts. */
function cleanResources(
  document: PDFDocument,
  resources: PDFDict,
  off: ReadonlySet<string>,
  seen = new Set<PDFObject>(),
): { shows: boolean; embedded: boolean } {
  let [shows, embedded] = [false, true];
  if (seen.has(resources)) return { shows, embedded };
  seen.add(resources);
  for (const font of valuesOf(resources, 'Font'))
    if (font instanceof PDFDict && !isEmbedded(font)) embedded = false;
  const forms = resources.lookupMaybe(PDFName.of('XObject'), PDFDict);
  for (const [name, value] of forms?.entries() ?? []) {
    const form = forms!.lookup(name);
    if (!(form instanceof PDFRawStream) || form.dict.get(PDFName.of('Subtype')) !== PDFName.of('Form'))
      continue;
    if (seen.has(form)) continue;
    seen.add(form);
    const own = form.dict.lookupMaybe(PDFName.of('Resources'), PDFDict) ?? resources;
    const layer = form.dict.get(PDFName.of('OC'));
    const hidden = layer !== undefined && off.has(String(layer));
    const inner = cleanResources(document, own, off, seen);
    const content = cleaned(bytesOf(form), (property) => isOff(own, property, off));
    shows ||= !hidden && (content.shows || inner.shows);
    embedded &&= inner.embedded;
    for (const key of ['StructParent', 'StructParents', 'OC']) form.dict.delete(PDFName.of(key));
    if (value instanceof PDFRef)
      document.context.assign(value, replaced(document, form, hidden ? new Uint8Array() : content.bytes));
  }
  return { shows, embedded };
}

/** A stream with other content, and all else that its dictionary says. */
function replaced(document: PDFDocument, form: PDFRawStream, bytes: Uint8Array): PDFStream {
  const stream = document.context.flateStream(bytes);
  for (const [key, value] of form.dict.entries())
    if (!['Length', 'Filter', 'DecodeParms'].includes(key.decodeText())) stream.dict.set(key, value);
  return stream;
}

const valuesOf = (resources: PDFDict, kind: string): PDFObject[] => {
  const all = resources.lookupMaybe(PDFName.of(kind), PDFDict);
  return (all?.keys() ?? []).flatMap((key) => all!.lookup(key) ?? []);
};

/** Whether a font's shapes are in the file (ISO 32000-1, 9.9). */
function isEmbedded(font: PDFDict): boolean {
  if (font.get(PDFName.of('Subtype')) === PDFName.of('Type3')) return true;
  const inner = font.lookupMaybe(PDFName.of('DescendantFonts'), PDFArray)?.lookup(0);
  const one = inner instanceof PDFDict ? inner : font;
  const about = one.lookupMaybe(PDFName.of('FontDescriptor'), PDFDict);
  return ['FontFile', 'FontFile2', 'FontFile3'].some((key) => about?.has(PDFName.of(key)));
}
