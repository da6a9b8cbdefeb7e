import type { FormField, Glyph, PageMarks, Rule, Shape } from '@scriptum/core/blanks';
import { AnnotationMode, getDocument, OPS, Util, type PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';

const MM = 25.4 / 72;
type Matrix = readonly [number, number, number, number, number, number];

/** As many pages of a PDF are looked at for blanks, and as many marks of one. */
const PAGES_MOST = 50;
const MARKS_MOST = 40_000;

/** What is on each page of a PDF, in millimetres as the page is shown. @throws for what is no PDF. */
export async function readMarks(file: Uint8Array): Promise<PageMarks[]> {
  const task = getDocument({ data: Uint8Array.from(file), verbosity: 0, isEvalSupported: false });
  const document = await task.promise;
  try {
    const pages: PageMarks[] = [];
    for (let n = 1; n <= Math.min(document.numPages, PAGES_MOST); n++)
      pages.push(await marksOf(await document.getPage(n)));
    return pages;
  } finally {
    await task.destroy();
  }
}

async function marksOf(page: PDFPageProxy): Promise<PageMarks> {
  const { transform, width, height } = page.getViewport({ scale: MM });
  const { fnArray, argsArray } = await page.getOperatorList({
    // What fields look like stands at the page's corner there; they are read by themselves.
    annotationMode: AnnotationMode.DISABLE,
  });
  const reader = new MarkReader(transform as unknown as Matrix);
  for (let n = 0; n < fnArray.length && !reader.isFull; n++)
    reader.take(fnArray[n]!, (argsArray[n] ?? []) as unknown[]);
  const { glyphs, rules, shapes } = reader;
  return {
    width,
    height,
    glyphs,
    rules,
    shapes,
    fields: await fieldsOf(page, transform as unknown as Matrix),
  };
}

interface Annotation {
  readonly subtype: string;
  readonly fieldType?: string;
  readonly fieldName?: string;
  readonly alternativeText?: string;
  readonly rect: readonly [number, number, number, number];
  readonly checkBox?: boolean;
  readonly radioButton?: boolean;
  readonly pushButton?: boolean;
  readonly comb?: boolean;
  readonly maxLen?: number;
  readonly hidden?: boolean;
  /** What it says where it is set: of radio buttons, and of check boxes. */
  readonly buttonValue?: string;
  readonly exportValue?: string;
}

async function fieldsOf(page: PDFPageProxy, view: Matrix): Promise<FormField[]> {
  const annotations = (await page.getAnnotations()) as Annotation[];
  return annotations.flatMap((one): FormField[] => {
    if (one.subtype !== 'Widget' || one.pushButton || one.fieldType === 'Sig') return [];
    const [x1, y1, x2, y2] = one.rect;
    const [ax, ay] = at(view, x1, y1);
    const [bx, by] = at(view, x2, y2);
    const tick = Boolean(one.checkBox || one.radioButton);
    return [
      {
        x: Math.min(ax, bx),
        y: Math.min(ay, by),
        width: Math.abs(ax - bx),
        height: Math.abs(ay - by),
        name: one.alternativeText || one.fieldName || '',
        kind: tick ? 'tick' : one.fieldType === 'Ch' ? 'choice' : 'text',
        cells: one.comb && one.maxLen ? one.maxLen : null,
        ...(one.fieldName ? { field: one.fieldName } : {}),
        ...(tick && (one.buttonValue ?? one.exportValue)
          ? { mark: one.buttonValue ?? one.exportValue! }
          : {}),
      },
    ];
  });
}

const at = ([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];

interface Shown {
  readonly unicode?: string;
  readonly width?: number;
}

interface State {
  matrix: Matrix;
  fill: string;
  fontSize: number;
  spacing: number;
  wordSpacing: number;
  across: number;
}

/** Light enough to be written on: nearly white. */
const isLight = (colour: string): boolean => {
  const [, r, g, b] = /^#?(..)(..)(..)/.exec(colour) ?? [];
  return [r, g, b].every((one) => one !== undefined && Number.parseInt(one, 16) > 0xd8);
};

/** Goes through what a page draws, and keeps letters and lines with their places (ISO 32000-1, 8 and 9). */
class MarkReader {
  readonly glyphs: Glyph[] = [];
  readonly rules: Rule[] = [];
  readonly shapes: Shape[] = [];
  private readonly states: State[] = [];
  private state: State;
  private text: Matrix = [1, 0, 0, 1, 0, 0];
  private line: Matrix = [1, 0, 0, 1, 0, 0];
  private leading = 0;

  constructor(view: Matrix) {
    this.state = { matrix: view, fill: '#000000', fontSize: 0, spacing: 0, wordSpacing: 0, across: 1 };
  }

  get isFull(): boolean {
    return this.glyphs.length + this.rules.length + this.shapes.length > MARKS_MOST;
  }

  take(operator: number, args: readonly unknown[]): void {
    const numbers = args as readonly number[];
    switch (operator) {
      case OPS.save:
        this.states.push({ ...this.state });
        return;
      case OPS.restore:
        this.state = this.states.pop() ?? this.state;
        return;
      case OPS.transform:
        this.state.matrix = Util.transform(this.state.matrix as never, numbers as never) as unknown as Matrix;
        return;
      case OPS.paintFormXObjectBegin: {
        this.states.push({ ...this.state });
        const matrix = args[0] as Matrix | null;
        if (matrix)
          this.state.matrix = Util.transform(
            this.state.matrix as never,
            matrix as never,
          ) as unknown as Matrix;
        return;
      }
      case OPS.paintFormXObjectEnd:
        this.state = this.states.pop() ?? this.state;
        return;
      case OPS.setFillRGBColor:
        this.state.fill = String(args[0]);
        return;
      case OPS.setFont:
        this.state.fontSize = numbers[1]!;
        return;
      case OPS.setCharSpacing:
        this.state.spacing = numbers[0]!;
        return;
      case OPS.setWordSpacing:
        this.state.wordSpacing = numbers[0]!;
        return;
      case OPS.setHScale:
        this.state.across = numbers[0]! / 100;
        return;
      case OPS.setLeading:
        this.leading = numbers[0]!;
        return;
      case OPS.beginText:
        this.text = this.line = [1, 0, 0, 1, 0, 0];
        return;
      case OPS.setTextMatrix:
        this.text = this.line = Array.from(
          (args.length === 1 ? args[0] : args) as ArrayLike<number>,
        ) as unknown as Matrix;
        return;
      case OPS.moveText:
        this.moveText(numbers[0]!, numbers[1]!);
        return;
      case OPS.setLeadingMoveText:
        this.leading = -numbers[1]!;
        this.moveText(numbers[0]!, numbers[1]!);
        return;
      case OPS.nextLine:
        this.moveText(0, this.leading);
        return;
      case OPS.showText:
      case OPS.showSpacedText:
        this.show(args[0] as readonly (Shown | number)[]);
        return;
      case OPS.nextLineShowText:
        this.moveText(0, this.leading);
        this.show(args[0] as readonly (Shown | number)[]);
        return;
      case OPS.constructPath:
        this.path(args);
    }
  }

  private moveText(x: number, y: number): void {
    this.line = Util.transform(this.line as never, [1, 0, 0, 1, x, y] as never) as unknown as Matrix;
    this.text = this.line;
  }

  private show(shown: readonly (Shown | number)[]): void {
    const { fontSize, spacing, wordSpacing, across, matrix } = this.state;
    for (const one of shown) {
      let advance: number;
      if (typeof one === 'number') advance = (-one / 1000) * fontSize * across;
      else {
        const width = ((one.width ?? 0) / 1000) * fontSize;
        const space = one.unicode === ' ' ? wordSpacing : 0;
        advance = (width + spacing + space) * across;
        const full = Util.transform(matrix as never, this.text as never) as unknown as Matrix;
        const [x, y] = at(full, 0, 0);
        const [endX, endY] = at(full, width * across, 0);
        // Letters that stand upright; others are no labels of blanks.
        if (Math.abs(endY - y) < 0.2 * Math.abs(endX - x) + 0.05)
          this.glyphs.push({
            text: one.unicode ?? '',
            x: Math.min(x, endX),
            baseline: y,
            width: Math.abs(endX - x),
            size: Math.abs(fontSize) * Math.hypot(full[2], full[3]),
          });
      }
      this.text = Util.transform(this.text as never, [1, 0, 0, 1, advance, 0] as never) as unknown as Matrix;
    }
  }

  private path([operator, data]: readonly unknown[]): void {
    const stroked = STROKES.has(operator as number);
    const filled = FILLS.has(operator as number);
    if (!stroked && !filled) return;
    for (const numbers of data as readonly (ArrayLike<number> | null)[])
      if (numbers) for (const part of partsOf(numbers)) this.part(part, stroked, filled);
  }

  private part({ points, curved, closed }: PathPart, stroked: boolean, filled: boolean): void {
    const placed = points.map(([x, y]) => at(this.state.matrix, x, y));
    const [xs, ys] = [placed.map(([x]) => x), placed.map(([, y]) => y)];
    const [x, y] = [Math.min(...xs), Math.min(...ys)];
    const [width, height] = [Math.max(...xs) - x, Math.max(...ys) - y];
    const straight =
      !curved &&
      placed
        .slice(1)
        .every(([px, py], n) => Math.abs(px - placed[n]![0]) < 0.15 || Math.abs(py - placed[n]![1]) < 0.15);
    // Lines that are drawn as thin areas.
    if (filled && !stroked && straight && Math.min(width, height) < 0.7 && Math.max(width, height) > 1.5) {
      this.rules.push(
        width > height
          ? { x1: x, x2: x + width, y1: y + height / 2, y2: y + height / 2 }
          : { x1: x + width / 2, x2: x + width / 2, y1: y, y2: y + height },
      );
      return;
    }
    if (stroked && straight)
      placed.forEach(([px, py], n) => {
        const [qx, qy] = placed[n + 1] ?? (closed ? placed[0]! : [px, py]);
        if (Math.hypot(qx - px, qy - py) > 0.5) this.rules.push({ x1: px, y1: py, x2: qx, y2: qy });
      });
    if (width > 1 && height > 1 && (curved || points.length > 3))
      this.shapes.push({
        x,
        y,
        width,
        height,
        round: curved,
        outlined: stroked,
        // What is not filled shows the paper.
        light: !filled || isLight(this.state.fill),
      });
  }
}

const STROKES: ReadonlySet<number> = new Set([
  OPS.stroke,
  OPS.closeStroke,
  OPS.fillStroke,
  OPS.eoFillStroke,
  OPS.closeFillStroke,
  OPS.closeEOFillStroke,
]);
const FILLS: ReadonlySet<number> = new Set([
  OPS.fill,
  OPS.eoFill,
  OPS.fillStroke,
  OPS.eoFillStroke,
  OPS.closeFillStroke,
  OPS.closeEOFillStroke,
]);

interface PathPart {
  readonly points: [number, number][];
  readonly curved: boolean;
  readonly closed: boolean;
}

/** The parts of a path as pdf.js writes it: 0 to move, 1 for a line, 2 for a curve, 3 to close, each before its points. */
function partsOf(numbers: ArrayLike<number>): PathPart[] {
  const parts: { points: [number, number][]; curved: boolean; closed: boolean }[] = [];
  for (let at = 0; at < numbers.length;) {
    const part = parts.at(-1);
    switch (numbers[at]) {
      case 0:
        parts.push({ points: [[numbers[at + 1]!, numbers[at + 2]!]], curved: false, closed: false });
        at += 3;
        break;
      case 1:
        part?.points.push([numbers[at + 1]!, numbers[at + 2]!]);
        at += 3;
        break;
      case 2:
        part?.points.push([numbers[at + 5]!, numbers[at + 6]!]);
        if (part) part.curved = true;
        at += 7;
        break;
      case 3:
        if (part) part.closed = true;
        at += 1;
        break;
      default:
        return parts;
    }
  }
  return parts;
}
