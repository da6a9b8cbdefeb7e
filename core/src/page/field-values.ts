import { standsIn, textsOfPrinted, type PrintedValues } from '../fill/index.js';
import { blankRules, type Placed, type PlacedBox } from '../template/index.js';
import { linePlain, textPlain, withoutBlank } from '../text/index.js';

/** What a field of a form is filled with: its text, or which of its marks is set; nothing where none is. */
export interface FilledField {
  readonly field: string;
  readonly value: string;
  /** True where it has letters that forms are not set in: it is set on the paper, and there is no field any more. */
  readonly set?: boolean;
}

/** Letters of the face that fields are filled in: Latin, Greek, Cyrillic, digits, punctuation and currencies. */
const IN_FIELDS =
  /^(?:[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\s -~\u00a0-\u02ff\u2010-\u2027\u2030-\u203a\u20a0-\u20bf]|\p{Script=Inherited})*$/u;

/** Places that fill fields, by their number among the boxes. */
export function fieldPlaces(template: Placed, values: PrintedValues): ReadonlyMap<number, FilledField> {
  return new Map(placesOf(template, values));
}

/** What stands in places that are fields of the form below, for one entry, where these stay fields. */
export const fieldValues = (template: Placed, values: PrintedValues): FilledField[] =>
  placesOf(template, values).map(([, filled]) => filled);

function placesOf(template: Placed, values: PrintedValues): [number, FilledField][] {
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
  return template.boxes.flatMap((box, n): [number, FilledField][] => {
    const value = isInField(template, box) ? said(box) : null;
    if (value === null) return [];
    const set = box.kind !== 'tick' && !IN_FIELDS.test(value);
    return [[n, { field: box.fills!.field, value, ...(set ? { set } : {}) }]];
  });
}

/** Whether a box is not set on the paper, because it fills a field that stays one. */
export const isInField = ({ fillable, pages }: Placed, { fills, page, kind }: PlacedBox): boolean =>
  Boolean(fillable && fills && pages[page]?.ground) &&
  (kind === 'text' || kind === 'comb' || kind === 'tick');
