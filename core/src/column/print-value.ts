import type { Value } from './values.js';
import type { FillFormat } from './print-format.js';

/**
 * Prints a value in a format, in a language (BCP 47), by Unicode CLDR.
 *
 * @param percent whether a number is percent of 100 and shall say so.
 * @returns null where the value is none of the format's kind.
 */
export function printValue(
  value: Value,
  format: FillFormat,
  language: string,
  percent = false,
): string | null {
  switch (format.kind) {
    case 'number': {
      if (value.kind !== 'number') return null;
      const options: Intl.NumberFormatOptions = {
        minimumFractionDigits: format.least,
        maximumFractionDigits: format.most,
        useGrouping: format.thousands,
        signDisplay: format.plus ? 'exceptZero' : 'negative',
        ...(percent ? { style: 'unit', unit: 'percent' } : {}),
      };
      // Given as text, so that no digit is lost on the way.
      const printed = numbers(language, options).format(value.decimal as Intl.StringNumericLiteral);
      return printed + format.unit;
    }
    case 'date': {
      if (value.kind !== 'date') return null;
      const hasTime = format.time && value.iso.length > 10;
      if (format.style === 'iso') return hasTime ? value.iso : value.iso.slice(0, 10);
      const options: Intl.DateTimeFormatOptions = {
        dateStyle: format.style,
        ...(hasTime ? { timeStyle: 'short' } : {}),
        timeZone: 'UTC',
      };
      // A day has no time zone: it is read and printed in the same one.
      const at = new Date(value.iso.length > 10 ? `${value.iso}Z` : value.iso);
      return Number.isNaN(at.getTime()) ? null : dates(language, options).format(at);
    }
    case 'list': {
      if (value.kind !== 'list') return null;
      if (format.take === 'first') return value.items[0] ?? '';
      const type = ({ and: 'conjunction', or: 'disjunction', nothing: 'unit' } as const)[format.last];
      return lists(language, { type, style: format.last === 'nothing' ? 'short' : 'long' }).format(
        value.items,
      );
    }
    case 'cell':
      return null;
    case 'yes/no':
      return value.kind === 'truth' ? (value.truth ? format.yes : format.no) : null;
  }
}

/** Formats are dear to make and few. */
function kept<Options, Format>(
  make: (language: string, options: Options) => Format,
): (language: string, options: Options) => Format {
  const known = new Map<string, Format>();
  return (language, options) => {
    const key = `${language} ${JSON.stringify(options)}`;
    let format = known.get(key);
    if (!format) {
      if (known.size >= 100) known.clear();
      known.set(key, (format = make(language, options)));
    }
    return format;
  };
}

const numbers = kept(
  (language, options: Intl.NumberFormatOptions) => new Intl.NumberFormat(language, options),
);
const dates = kept(
  (language, options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(language, options),
);
const lists = kept((language, options: Intl.ListFormatOptions) => new Intl.ListFormat(language, options));
