import { PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';

/** Points in a millimetre. */
const MM = 72 / 25.4;
const HEIGHT = 297;

/** A blank as it truly is: its area, in millimetres from the upper left corner; of a line, what stands right above it. */
export interface TrueBlank {
  readonly kind: 'text' | 'tick' | 'comb';
  readonly x: number;
  readonly width: number;
  /** Its lower edge. */
  readonly bottom: number;
  readonly label: string;
  readonly cells?: number;
}

/** Draws a form with millimetres from the upper left corner, and keeps where its blanks truly are. */
export class FormSheet {
  readonly blanks: TrueBlank[] = [];

  private constructor(
    private readonly document: PDFDocument,
    private readonly page: PDFPage,
    private readonly font: PDFFont,
  ) {}

  static async begin(): Promise<FormSheet> {
    const document = await PDFDocument.create();
    const page = document.addPage([210 * MM, HEIGHT * MM]);
    return new FormSheet(document, page, await document.embedFont(StandardFonts.Helvetica));
  }

  widthOf(words: string, size = 10): number {
    return this.font.widthOfTextAtSize(words, size) / MM;
  }

  words(x: number, baseline: number, words: string, size = 10): this {
    this.page.drawText(words, { x: x * MM, y: (HEIGHT - baseline) * MM, size, font: this.font });
    return this;
  }

  line(x: number, y: number, width: number, thickness = 0.5): this {
    const at = (HEIGHT - y) * MM;
    this.page.drawLine({ start: { x: x * MM, y: at }, end: { x: (x + width) * MM, y: at }, thickness });
    return this;
  }

  upright(x: number, y: number, height: number): this {
    this.page.drawLine({
      start: { x: x * MM, y: (HEIGHT - y) * MM },
      end: { x: x * MM, y: (HEIGHT - y - height) * MM },
      thickness: 0.5,
    });
    return this;
  }

  /** An area without a line around it. @param grey 0 is black, 1 white. */
  ground(x: number, y: number, width: number, height: number, grey: number): this {
    this.page.drawRectangle({ ...box(x, y, width, height), color: rgb(grey, grey, grey) });
    return this;
  }

  box(x: number, y: number, width: number, height: number): this {
    this.page.drawRectangle({ ...box(x, y, width, height), borderWidth: 0.6, borderColor: rgb(0, 0, 0) });
    return this;
  }

  circle(x: number, y: number, radius: number): this {
    this.page.drawCircle({
      x: x * MM,
      y: (HEIGHT - y) * MM,
      size: radius * MM,
      borderWidth: 0.6,
      borderColor: rgb(0, 0, 0),
    });
    return this;
  }

  /** Words and a line to write on behind them. */
  labelled(x: number, y: number, label: string, to: number, size = 10): this {
    const from = x + this.widthOf(label, size) + 2;
    return this.words(x, y - 0.5, label, size)
      .line(from, y, to - from)
      .is('text', from, y, to - from, label);
  }

  /** Words with signs of a typeface that make a line: `Name: ______`. Each run of them is a blank. */
  led(x: number, y: number, parts: readonly (readonly [label: string, signs: string])[], size = 10): this {
    let at = x;
    for (const [label, signs] of parts) {
      this.words(at, y, label, size);
      at += this.widthOf(label, size);
      this.words(at, y, signs, size);
      if (signs) this.is('text', at, y, this.widthOf(signs, size), label);
      at += this.widthOf(signs, size) + 2;
    }
    return this;
  }

  tick(x: number, y: number, side: number, label: string, round = false): this {
    if (round) this.circle(x + side / 2, y + side / 2, side / 2);
    else this.box(x, y, side, side);
    return this.words(x + side + 2, y + side * 0.82, label).is('tick', x, y + side, side, label);
  }

  /** Cells for one letter each. */
  comb(x: number, y: number, cells: number, width: number, height: number, label: string): this {
    for (let n = 0; n < cells; n++) this.box(x + n * width, y, width, height);
    return this.is('comb', x, y + height, cells * width, label, cells);
  }

  is(kind: TrueBlank['kind'], x: number, bottom: number, width: number, label: string, cells?: number): this {
    this.blanks.push({
      kind,
      x,
      bottom,
      width,
      label: label.replace(/[\s:]+$/, ''),
      ...(cells ? { cells } : {}),
    });
    return this;
  }

  /** Interactive fields (ISO 32000-1, 12.7). */
  field(
    kind: 'text' | 'tick' | 'comb',
    name: string,
    x: number,
    y: number,
    width: number,
    height: number,
    cells = 8,
  ): this {
    const form = this.document.getForm();
    const at = box(x, y, width, height);
    if (kind === 'tick') form.createCheckBox(name).addToPage(this.page, at);
    else {
      const made = form.createTextField(name);
      if (kind === 'comb') {
        made.setMaxLength(cells);
        made.enableCombing();
      }
      made.addToPage(this.page, at);
    }
    return this.is(kind, x, y + height, width, name, kind === 'comb' ? cells : undefined);
  }

  save(): Promise<Uint8Array> {
    return this.document.save();
  }
}

const box = (x: number, y: number, width: number, height: number) => ({
  x: x * MM,
  y: (HEIGHT - y - height) * MM,
  width: width * MM,
  height: height * MM,
});

/** Draws one form. */
export type Draw = (sheet: FormSheet) => FormSheet;

/** The forms that the rules were written with. */
export const KNOWN_FORMS: Readonly<Record<string, Draw>> = {
  'underscores in running lines': (s) =>
    s
      .words(20, 25, 'Library ticket', 18)
      .led(20, 45, [
        ['Name: ', '______________________'],
        ['Class: ', '________'],
      ])
      .led(20, 55, [
        ['Tutor: ', '_______________'],
        ['Room: ', '______'],
        ['House: ', '_________'],
      ])
      .led(20, 70, [
        ['I borrow at most ', '_____'],
        ['books at a time.', ''],
      ]),
  'lines behind their words': (s) =>
    s
      .words(20, 25, 'Trip to the lighthouse', 18)
      .line(20, 29, 170)
      .labelled(20, 50, 'Name of the learner', 190)
      .labelled(20, 60, 'Address', 190)
      .labelled(20, 70, 'Telephone', 95)
      .labelled(105, 70, 'Doctor', 190),
  'lines above their words': (s) => {
    for (const [n, label] of ['Place and date', 'Signature of a parent', 'Name in capitals'].entries())
      s.line(20, 80 + 25 * n, 70)
        .words(20, 84 + 25 * n, label, 7)
        .is('text', 20, 80 + 25 * n, 70, label);
    return s.words(20, 40, 'We agree with the rules of the workshop and have read them with our child.');
  },
  'squares and circles': (s) =>
    s
      .words(20, 30, 'My child may')
      .tick(20, 40, 4, 'swim')
      .tick(60, 40, 4, 'walk home alone')
      .tick(20, 50, 4, 'be photographed')
      .words(20, 70, 'Lunch')
      .tick(20, 76, 4, 'meat', true)
      .tick(60, 76, 4, 'fish', true)
      .tick(100, 76, 4, 'neither', true),
  'cells and boxes': (s) =>
    s
      .words(20, 45, 'Candidate number')
      .comb(60, 39, 6, 6, 8, 'Candidate number')
      .words(20, 65, 'Surname')
      .box(60, 58, 110, 9)
      .is('text', 60, 67, 110, 'Surname')
      .words(20, 80, 'Remarks')
      .box(20, 83, 150, 40)
      .is('text', 20, 123, 150, 'Remarks'),
  'a table': (s) => {
    const [xs, ys] = [
      [20, 60, 90, 120],
      [40, 50, 60, 70],
    ];
    for (const y of [...ys, 80]) s.line(20, y, 130);
    for (const x of [...xs, 150]) s.upright(x, 40, 40);
    ['Subject', 'Mark', 'Effort', 'Remark'].forEach((head, n) => s.words(xs[n]! + 2, 47, head));
    ['Art', 'Music', 'History'].forEach((subject, row) => {
      s.words(22, 57 + 10 * row, subject);
      ['Mark', 'Effort', 'Remark'].forEach((head, n) =>
        s.is(
          'text',
          xs[n + 1]! + 1,
          60 + 10 * row,
          (xs[n + 2] ?? 150) - xs[n + 1]! - 2,
          `${subject}, ${head}`,
        ),
      );
    });
    return s;
  },
};

/** Forms that were drawn once the rules stood, and were not looked at while they were written. */
export const UNSEEN_FORMS: Readonly<Record<string, Draw>> = {
  'a consent form': (s) => {
    s.words(25, 28, 'Consent to a school trip', 20).line(25, 32, 160, 1.2);
    s.words(
      25,
      44,
      'We travel by bus to the salt marshes and come back in the evening. Bring boots and bread.',
    );
    s.led(25, 60, [
      ['Child: ', '_____________________________'],
      ['Form: ', '_______'],
    ]);
    s.led(25, 70, [['Allergies and medicine: ', '___________________________________']]);
    s.words(25, 86, 'I agree that my child takes part').tick(90, 82.6, 4, 'yes').tick(110, 82.6, 4, 'no');
    s.words(25, 96, 'Photographs may be shown').tick(90, 92.6, 4, 'at school').tick(120, 92.6, 4, 'nowhere');
    s.line(25, 130, 65).words(25, 134, 'Date', 8).is('text', 25, 130, 65, 'Date');
    s.line(110, 130, 75)
      .words(110, 134, 'Parent or guardian', 8)
      .is('text', 110, 130, 75, 'Parent or guardian');
    return s.words(25, 280, 'Harbour School · return by Friday', 8);
  },
  'a medical sheet': (s) => {
    s.words(20, 24, 'Medical sheet', 16);
    const named = (x: number, y: number, w: number, h: number, label: string) =>
      s
        .box(x, y, w, h)
        .words(x + 1.5, y + 3.5, label, 7)
        .is('text', x + 1, y + h, w - 2, label);
    named(20, 32, 110, 13, 'Family name');
    named(130, 32, 60, 13, 'Born on');
    named(20, 45, 110, 13, 'Given names');
    named(130, 45, 60, 13, 'Insurance');
    s.words(20, 70, 'Has your child ever had');
    s.tick(20, 75, 3.5, 'asthma').tick(60, 75, 3.5, 'fits').tick(100, 75, 3.5, 'a heart condition');
    s.words(20, 95, 'Tell us more');
    for (let n = 0; n < 4; n++) s.line(20, 104 + 9 * n, 170);
    s.is('text', 20, 131, 170, 'Tell us more');
    return s.labelled(20, 150, 'Family doctor', 120).labelled(125, 150, 'Tel.', 190);
  },
  'dots, in German': (s) => {
    s.words(20, 25, 'Anmeldung zur Musikschule', 16);
    s.led(20, 45, [
      ['Vorname: ', '........................................'],
      ['Nachname: ', '..............................'],
    ]);
    s.led(20, 55, [
      ['Instrument: ', '.....................'],
      ['seit: ', '............'],
    ]);
    s.words(20, 75, 'Inhalt', 12);
    // What leads to the numbers of pages is none.
    s.words(20, 83, `Gebühren ${'.'.repeat(60)} 2`).words(20, 89, `Termine ${'.'.repeat(62)} 3`);
    s.led(20, 110, [
      ['Ort, Datum ', '...........................'],
      ['Unterschrift ', '...................................'],
    ]);
    return s.words(20, 125, 'Bitte zurück bis zum 3. Mai ... danke!');
  },
  'interactive fields': (s) =>
    s
      .words(20, 40, 'Name')
      .field('text', 'Name', 45, 34, 80, 8)
      .words(20, 55, 'Class')
      .field('text', 'Class', 45, 49, 30, 8)
      .words(20, 70, 'Number')
      .field('comb', 'Number', 45, 64, 64, 8)
      .field('tick', 'Sings', 45, 80, 4, 4)
      .words(51, 83.3, 'Sings')
      .field('tick', 'Plays', 80, 80, 4, 4)
      .words(86, 83.3, 'Plays'),
  'a report with a chart and a photograph': (s) => {
    s.words(20, 25, 'Mid-year report', 18).words(20, 35, 'Reading this year');
    // Bars, and a frame that a photograph is glued into.
    [18, 25, 12, 30].forEach((h, n) => s.ground(22 + n * 12, 75 - h, 8, h, 0.35));
    s.line(20, 75, 50).upright(20, 40, 35);
    s.box(150, 20, 35, 45).words(157, 43, 'photograph', 8);
    const [top, rows] = [90, ['English', 'Mathematics', 'Science', 'Sport']];
    for (let n = 0; n <= rows.length + 1; n++) s.line(20, top + n * 9, 165);
    for (const x of [20, 70, 100, 185]) s.upright(x, top, 9 * (rows.length + 1));
    s.words(22, top + 6, 'Subject')
      .words(72, top + 6, 'Grade')
      .words(102, top + 6, 'Remark');
    rows.forEach((subject, n) => {
      const bottom = top + 9 * (n + 2);
      s.words(22, bottom - 3, subject);
      s.is('text', 71, bottom, 28, `${subject}, Grade`).is('text', 101, bottom, 83, `${subject}, Remark`);
    });
    return s
      .labelled(20, 160, 'Absent, sessions', 75)
      .labelled(90, 160, 'Late', 130)
      .labelled(20, 185, 'Class teacher', 105);
  },
  'lines as thin areas, tinted boxes, cells in one box': (s) => {
    s.words(20, 25, 'Locker agreement', 16);
    const thin = (x: number, y: number, w: number) => s.ground(x, y - 0.1, w, 0.25, 0);
    s.words(20, 44.5, 'Locker of');
    thin(40, 45, 90).is('text', 40, 45, 90, 'Locker of');
    s.words(140, 44.5, 'Row');
    thin(150, 45, 35).is('text', 150, 45, 35, 'Row');
    s.words(20, 62, 'Combination').box(50, 55, 40, 9);
    for (let n = 1; n < 5; n++) s.upright(50 + 8 * n, 55, 9);
    s.is('comb', 50, 64, 40, 'Combination', 5);
    s.words(20, 80, 'Given out by').ground(50, 73, 80, 9, 0.92).is('text', 51, 82, 78, 'Given out by');
    s.words(20, 94, 'Given back on').ground(50, 87, 40, 9, 0.92).is('text', 51, 96, 38, 'Given back on');
    s.words(20, 112, 'The key is').tick(50, 108.5, 4, 'kept', true).tick(80, 108.5, 4, 'lost', true);
    // A heading with a rule under its words is none to write on.
    return s
      .words(20, 130, 'For the office', 11)
      .line(20, 131.2, 28)
      .words(20, 140, 'Nothing to be filled in below this line.');
  },
};
