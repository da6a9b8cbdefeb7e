import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** A node of a PDF's structure tree, as pdf.js reads it. */
export interface StructNode {
  readonly role: string;
  readonly alt?: string;
  readonly lang?: string;
  readonly children: readonly (StructNode | { readonly type: string })[];
}

/** What pdf.js, a reader of its own, finds in a PDF. */
export interface ReadPdf {
  readonly marked: boolean;
  readonly title: string;
  readonly language: string;
  /** XMP (ISO 16684-1). */
  readonly metadata: string;
  /** The structure of each page. */
  readonly pages: readonly StructNode[];
}

/** A run of text on a page: where its baseline begins, in points from the upper left corner, and how wide it is. */
export interface TextRun {
  readonly text: string;
  readonly x: number;
  readonly baseline: number;
  readonly width: number;
  readonly size: number;
}

/** The runs of text of a page, counted from 1, as pdf.js reads them. */
export async function textRuns(bytes: Uint8Array, page = 1): Promise<TextRun[]> {
  const task = getDocument({ data: Uint8Array.from(bytes), verbosity: 0 });
  const document = await task.promise;
  try {
    const read = await document.getPage(page);
    const [, , , height] = read.view as [number, number, number, number];
    const { items } = await read.getTextContent();
    return items.flatMap((item) => {
      if (!('str' in item) || item.str.trim() === '') return [];
      const [a, b, , , x, y] = item.transform as number[];
      return [
        {
          text: item.str,
          x: x!,
          baseline: height - y!,
          width: item.width,
          size: Math.hypot(a!, b!),
        },
      ];
    });
  } finally {
    await task.destroy();
  }
}

export async function readPdf(bytes: Uint8Array): Promise<ReadPdf> {
  const task = getDocument({ data: Uint8Array.from(bytes), verbosity: 0 });
  const document = await task.promise;
  try {
    const pages: StructNode[] = [];
    for (let n = 1; n <= document.numPages; n++)
      pages.push((await (await document.getPage(n)).getStructTree()) as unknown as StructNode);
    const { info, metadata } = await document.getMetadata();
    const { Title = '', Language = '' } = info as { Title?: string; Language?: string };
    const marks = (await document.getMarkInfo()) as { Marked?: boolean } | null;
    return {
      marked: marks?.Marked === true,
      title: Title,
      language: Language,
      metadata: (metadata as { getRaw(): string } | null)?.getRaw() ?? '',
      pages,
    };
  } finally {
    await task.destroy();
  }
}

/** Roles in reading order, with the alternative text of a figure: `H1`, `Figure: Crest`. */
export function rolesOf(node: StructNode): string[] {
  const own = node.alt === undefined ? node.role : `${node.role}: ${node.alt}`;
  return [own, ...node.children.flatMap((child) => ('role' in child ? rolesOf(child) : []))];
}

/** A field of a form with what it is filled with: a text, whether a box is ticked, which of several marks is set. */
export interface ReadField {
  readonly name: string;
  readonly value: string | boolean;
  /** In points from the page's lower left corner: of its first place. */
  readonly rect: readonly number[];
}

interface Widget {
  readonly subtype: string;
  readonly fieldName: string;
  readonly fieldValue: string | readonly string[] | null;
  readonly rect: readonly number[];
  readonly checkBox?: boolean;
  readonly exportValue?: string;
}

/** The fields of a PDF's form, as pdf.js reads them. */
export async function formFields(bytes: Uint8Array): Promise<ReadField[]> {
  const task = getDocument({ data: Uint8Array.from(bytes), verbosity: 0 });
  const document = await task.promise;
  try {
    const fields = new Map<string, ReadField>();
    for (let n = 1; n <= document.numPages; n++) {
      const widgets = (await (await document.getPage(n)).getAnnotations()) as Widget[];
      for (const { subtype, fieldName: name, fieldValue, rect, checkBox, exportValue } of widgets) {
        if (subtype !== 'Widget' || fields.has(name)) continue;
        const value = Array.isArray(fieldValue) ? fieldValue.join(', ') : String(fieldValue ?? '');
        fields.set(name, { name, value: checkBox ? value === exportValue : value, rect });
      }
    }
    return [...fields.values()];
  } finally {
    await task.destroy();
  }
}
