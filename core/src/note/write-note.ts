import { escapeHtml, linePlain, remaining, textHtml, textPlain, withoutBlank } from '../text/index.js';
import {
  filledParts,
  fillFields,
  oneLine,
  standsIn,
  textsOfFilled,
  type FillContext,
} from '../fill/index.js';
import { valueOf, type Entry } from '../roll/index.js';
import { readAddress, type AddressReading } from '../column/index.js';
import { blankRules, type CoverNote } from '../template/index.js';

/** One entry's email, ready to be handed over. */
export interface WrittenNote {
  readonly to: AddressReading;
  readonly subject: string;
  readonly text: string;
  readonly html: string;
}

/** Writes the cover note for one entry, in the language of the context. */
export function writeNote(note: CoverNote, entry: Entry, context: FillContext): WrittenNote {
  const { language } = context;
  const values = textsOfFilled(fillFields(note.fields, entry, context));
  const rules = blankRules(note.fields, language);
  const isBlank = (id: string): boolean => (values[id] ?? '') === '';
  const subject = oneLine(linePlain(remaining(note.subject, rules, isBlank) ?? [], values));
  const parts = filledParts(note.parts ?? [], entry, context.columns);
  const body = withoutBlank(note.body, rules, isBlank, (id) => standsIn(parts, id));
  return {
    to: readAddress(valueOf(entry, note.toColumnId)),
    subject,
    text: textPlain(body, values),
    html: `<!doctype html><html lang="${escapeHtml(language)}"><head><meta charset="utf-8"><meta name="color-scheme" content="light"><title>${escapeHtml(subject)}</title></head><body style="margin:0;background-color:#FFFFFF"><div style="padding:16px;background-color:#FFFFFF;font-family:sans-serif;font-size:15px;line-height:1.5;color:#22303C">${textHtml(body, values)}</div></body></html>`,
  };
}
