import { escapeHtml, linePlain, remaining, textHtml, textPlain, withoutBlank } from '../text/index.js';
import type { LineText } from '../text/index.js';
import {
  filledParts,
  fillFields,
  oneLine,
  standsIn,
  textsOfFilled,
  type FillContext,
  type MessageContext,
} from '../fill/index.js';
import { blankRules, type CoverNote } from '../template/index.js';
import type { Envelope } from './recipients.js';

/** An email, ready to be handed over. */
export interface WrittenNote {
  readonly subject: string;
  /** What mail programs show beside the subject; blank where nothing is said. */
  readonly preview: string;
  readonly text: string;
  readonly html: string;
}

/**
 * Writes the cover note of one message, in the language of the context. Where several learners share it, fields print what the
 * first of them has, unless they are said to name all.
 *
 * @param link where the message has a private one.
 */
export function writeNote(
  note: CoverNote,
  { entries, to }: Pick<Envelope, 'entries' | 'to'>,
  context: Omit<FillContext, 'message'>,
  link?: MessageContext['link'],
): WrittenNote {
  const { language } = context;
  const entry = entries[0]!;
  const addressees = to.map(({ name }) => oneLine(name)).filter(Boolean);
  const values = textsOfFilled(
    fillFields(note.fields, entry, { ...context, message: { entries, addressees, link } }),
  );
  const rules = blankRules(note.fields, language);
  const personal = new Set(
    context.columns.filter(({ worked }) => worked?.kind === 'personal').map(({ id }) => id),
  );
  const links = new Set(
    note.fields
      .filter(({ same, columnId }) => same?.kind === 'link' || (columnId !== null && personal.has(columnId)))
      .map(({ id }) => id),
  );
  const isBlank = (id: string): boolean => (values[id] ?? '') === '';
  const line = (text: LineText): string => oneLine(linePlain(remaining(text, rules, isBlank) ?? [], values));
  const subject = line(note.subject);
  const preview = line(note.preview ?? []);
  const parts = filledParts(note.parts ?? [], entry, context.columns);
  const body = withoutBlank(note.body, rules, isBlank, (id) => standsIn(parts, id));
  const hidden =
    preview === ''
      ? ''
      : `<div style="display:none;max-height:0;overflow:hidden;opacity:0">${escapeHtml(preview)}</div>`;
  return {
    subject,
    preview,
    text: textPlain(body, values),
    html: `<!doctype html><html lang="${escapeHtml(language)}"><head><meta charset="utf-8"><meta name="color-scheme" content="light"><title>${escapeHtml(subject)}</title></head><body style="margin:0;background-color:#FFFFFF">${hidden}<div style="padding:16px;background-color:#FFFFFF;font-family:sans-serif;font-size:15px;line-height:1.5;color:#22303C">${textHtml(body, values, links)}</div></body></html>`,
  };
}
