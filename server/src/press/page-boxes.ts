import { PDFDocument } from '@cantoo/pdf-lib';

/** How far pages reach beyond the paper, in millimetres: the bleed, and all with marks where to cut. */
export interface Beyond {
  readonly bleed: number;
  readonly all: number;
}

/** Points in a millimetre. */
const POINTS = 72 / 25.4;

/**
 * Says in a file which part of each page is the paper, and how far its ground reaches beyond (ISO 32000-1, 14.11.2). Where
 * there are no marks where to cut, readers show the paper alone.
 */
export async function withPageBoxes(file: Uint8Array, { bleed, all }: Beyond): Promise<Uint8Array> {
  const document = await PDFDocument.load(file, { updateMetadata: false });
  for (const page of document.getPages()) {
    const { width, height } = page.getMediaBox();
    const within = (mm: number): [number, number, number, number] => {
      const edge = mm * POINTS;
      return [edge, edge, width - 2 * edge, height - 2 * edge];
    };
    page.setTrimBox(...within(all));
    page.setBleedBox(...within(all - bleed));
    if (all === bleed) page.setCropBox(...within(all));
  }
  return document.save({ useObjectStreams: true, addDefaultPage: false });
}
