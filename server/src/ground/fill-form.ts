import {
  PDFCheckBox,
  PDFDropdown,
  PDFHexString,
  PDFName,
  PDFOptionList,
  PDFRadioGroup,
  PDFTextField,
  StandardFonts,
  type PDFDocument,
  type PDFFont,
} from '@cantoo/pdf-lib';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import type { FieldValue } from '../store/laid-on.js';

const require = createRequire(import.meta.url);

/** Points that a value is set in where the form leaves it open, and the least. */
const MOST = 12;
const LEAST = 4;

/**
 * Fills fields of a PDF's form, which stay fields (ISO 32000-1, 12.7). Fields that are not there are passed over. How a value
 * looks is drawn too, in Helvetica, or in Noto Sans where that has letters which Helvetica lacks; of others the program that
 * opens the file draws it.
 */
export async function fillForm(document: PDFDocument, values: readonly FieldValue[]): Promise<void> {
  const form = document.getForm();
  const plain = await document.embedFont(StandardFonts.Helvetica);
  let wide: PDFFont | null = null;
  const fields = new Map(form.getFields().map((field) => [field.getName(), field]));
  for (const { field: wanted, value, set } of values) {
    const field = fields.get(wanted);
    if (field && set) {
      form.removeField(field);
      continue;
    }
    if (field instanceof PDFTextField) {
      const text = value.trim();
      if (!fitLength(field, text)) continue;
      if (canSet(plain, text)) setText(field, text, plain);
      else {
        wide ??= await notoSans(document);
        if (canSet(wide, text)) setText(field, text, wide);
        else leaveOpen(field, text);
      }
    } else if (field instanceof PDFCheckBox) {
      if (value !== '') field.check();
    } else if (field instanceof PDFRadioGroup) {
      const mark = field.acroField.getOnValues().find((one) => one.decodeText() === value);
      if (mark) field.acroField.setValue(mark);
    } else if (field instanceof PDFDropdown || field instanceof PDFOptionList) {
      if (value === '') continue;
      if (field instanceof PDFDropdown || field.getOptions().includes(value)) {
        if (!canSet(plain, value)) wide ??= await notoSans(document);
        field.select(value);
        field.updateAppearances(canSet(plain, value) ? plain : wide!);
      }
    }
  }
}

async function notoSans(document: PDFDocument): Promise<PDFFont> {
  document.registerFontkit((await import('fontkit')) as never);
  const file = require.resolve('@expo-google-fonts/noto-sans/400Regular/NotoSans_400Regular.ttf');
  return document.embedFont(await readFile(file), { subset: true });
}

/** Whether a font has all letters of a text. */
function canSet(font: PDFFont, text: string): boolean {
  const known = new Set(font.getCharacterSet());
  return [...text].every((letter) => known.has(letter.codePointAt(0)!) || /\s/.test(letter));
}

/** Makes room for a text that has more letters than its field takes; one letter a cell is no room to be made. */
function fitLength(field: PDFTextField, text: string): boolean {
  const most = field.getMaxLength();
  if (most === undefined || text.length <= most) return true;
  if (field.isCombed()) return false;
  field.removeMaxLength();
  return true;
}

function setText(field: PDFTextField, text: string, font: PDFFont): void {
  field.setText(text);
  const size = /([\d.]+)\s+Tf/.exec(field.acroField.getDefaultAppearance() ?? '')?.[1];
  // Where it is left to whoever draws it, programs differ widely.
  if (!size || Number(size) === 0) field.setFontSize(sizeFor(field, text, font));
  field.updateAppearances(font);
}

function sizeFor(field: PDFTextField, text: string, font: PDFFont): number {
  const [widget] = field.acroField.getWidgets();
  const { width, height } = widget?.getRectangle() ?? { width: 100, height: 20 };
  const room = Math.max(1, width - 4);
  for (let size = field.isMultiline() ? MOST : Math.min(MOST, height * 0.55); size > LEAST; size -= 0.5) {
    const lines = text
      .split('\n')
      .reduce((sum, line) => sum + Math.max(1, Math.ceil(font.widthOfTextAtSize(line, size) / room)), 0);
    if (field.isMultiline() ? lines * size * 1.2 <= height - 4 : lines <= 1) return Math.max(LEAST, size);
  }
  return LEAST;
}

/** A value whose letters no font here has: whoever opens the file may draw it. */
function leaveOpen(field: PDFTextField, text: string): void {
  field.acroField.dict.set(PDFName.of('V'), PDFHexString.fromText(text));
  for (const widget of field.acroField.getWidgets()) widget.dict.delete(PDFName.of('AP'));
}
