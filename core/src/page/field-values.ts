import { standsIn, textsOfPrinted, type PrintedValues } from '../fill/index.js';
import { blankRules, type Placed, type PlacedBox } from '../template/index.js';
import { linePlain, textPlain, withoutBlank } from '../text/index.js';

/** What a field of a form is filled with: its text, or which of its marks is set; nothing where none is. */
export interface FilledField {
  readonly field: string;
  readonly value: string;
}

/** What stands in places that are fields of the form below, for one entry, where these stay fields. */
export function fieldValues(template: Placed, values: PrintedValues): FilledField[] {
  const texts = textsOfPrinted(values);
  const rules = blankRules(template.fields, template.language);
  const isBlank = (fieldId: string): boolean => (texts[fieldId] ?? '') === '';
  const stands = (part: string): boolean => standsIn(values, part);
  const said = (box: PlacedBox): string | null => {
    const there = !box.part || stands(box.part);
    switch (box.kind) {
      case 'text':
        return there ? textPlain(withoutBlank(box.body, rules, isBlank, stands), texts).trim() : '';
      case 'comb': {
        const text = there ? linePlain(box.line, texts).replace(/\s+/g, ' ').trim() : '';
        return box.capitals ? text.toLocaleUpperCase(template.language) : text;
      }
      case 'tick':
        return there ? (box.fills?.mark ?? 'Yes') : '';
      default:
        return null;
    }
  };
  return template.boxes.flatMap((box): FilledField[] => {
    const value = box.fills ? said(box) : null;
    return value === null ? [] : [{ field: box.fills!.field, value }];
  });
}

/** Whether a box is not set on the paper, because it fills a field that stays one. */
export const isInField = ({ fillable, pages }: Placed, { fills, page, kind }: PlacedBox): boolean =>
  Boolean(fillable && fills && pages[page]?.ground) &&
  (kind === 'text' || kind === 'comb' || kind === 'tick');
