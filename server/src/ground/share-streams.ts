import { createHash } from 'node:crypto';
import {
  PDFArray,
  PDFDict,
  type PDFDocument,
  PDFName,
  PDFRawStream,
  PDFRef,
  type PDFObject,
} from '@cantoo/pdf-lib';

/** How often what names shared things is looked at again, since it may be the same by then too. */
const ROUNDS = 4;
/** Plain objects that are the same for whoever names them. */
const SHARED = new Set(['Font', 'FontDescriptor', 'ExtGState'].map((type) => PDFName.of(type)));

/** Keeps what stands several times in a pack once: pictures, drawings, fonts, contents of pages. */
export function shareStreams({ context }: PDFDocument): void {
  for (let round = 0; round < ROUNDS; round++) {
    const first = new Map<string, PDFRef>();
    const instead = new Map<PDFRef, PDFRef>();
    for (const [ref, object] of context.enumerateIndirectObjects()) {
      const key = keyOf(object);
      if (key === null) continue;
      const known = first.get(key);
      if (known) instead.set(ref, known);
      else first.set(key, ref);
    }
    if (instead.size === 0) return;
    for (const ref of instead.keys()) context.delete(ref);
    for (const [, object] of context.enumerateIndirectObjects()) replace(object, instead);
  }
}

function keyOf(object: PDFObject): string | null {
  if (object instanceof PDFRawStream) {
    const hash = createHash('sha256').update(object.contents).digest('hex');
    return `${hash} ${object.dict.toString()}`;
  }
  const type = object instanceof PDFDict ? object.get(PDFName.of('Type')) : undefined;
  return type instanceof PDFName && SHARED.has(type) ? object.toString() : null;
}

function replace(object: PDFObject, instead: ReadonlyMap<PDFRef, PDFRef>): void {
  if (object instanceof PDFRawStream) replace(object.dict, instead);
  else if (object instanceof PDFDict)
    for (const [key, value] of object.entries()) {
      if (value instanceof PDFRef) object.set(key, instead.get(value) ?? value);
      else replace(value, instead);
    }
  else if (object instanceof PDFArray)
    for (let n = 0; n < object.size(); n++) {
      const value = object.get(n);
      if (value instanceof PDFRef) object.set(n, instead.get(value) ?? value);
      else replace(value, instead);
    }
}
