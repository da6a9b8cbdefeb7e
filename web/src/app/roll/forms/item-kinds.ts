import type { FormItem, ItemKind } from '@scriptum/core/form';

/** What a kind of item is called where one is added, and in its sentence. */
export interface KindWords {
  readonly kind: ItemKind;
  readonly name: string;
  readonly hint: string;
}

export const ASKED: readonly KindWords[] = [
  { kind: 'short', name: 'a line of text', hint: 'a few words' },
  { kind: 'long', name: 'several lines of text', hint: 'in their own words' },
  { kind: 'one', name: 'one of several', hint: 'one answer is picked' },
  { kind: 'several', name: 'any of several', hint: 'several are picked' },
  { kind: 'scale', name: 'a scale', hint: 'from little to much' },
  { kind: 'grid', name: 'rows answered alike', hint: 'the same answers for each row' },
  { kind: 'number', name: 'a number', hint: 'from, to, with a unit' },
  { kind: 'date', name: 'a day', hint: 'with a time, if wanted' },
  { kind: 'time', name: 'a time', hint: 'of any day' },
  { kind: 'name', name: 'a name', hint: 'first name and surname' },
  { kind: 'email', name: 'an email address', hint: '' },
  { kind: 'phone', name: 'a telephone number', hint: '' },
  { kind: 'file', name: 'a file', hint: 'a picture, a PDF, a paper' },
  { kind: 'signature', name: 'a signature', hint: 'drawn or typed' },
  { kind: 'consent', name: 'a yes', hint: 'a box that is ticked to agree' },
];
export const BETWEEN: readonly KindWords[] = [
  { kind: 'page', name: 'a new page', hint: 'what follows comes after “Go on”' },
  { kind: 'section', name: 'a heading', hint: '' },
  { kind: 'words', name: 'a text', hint: 'that is only read' },
  { kind: 'picture', name: 'a picture', hint: '' },
  { kind: 'hidden', name: 'a value from the link', hint: 'nobody is asked' },
];

export const kindName = (kind: ItemKind): string =>
  [...ASKED, ...BETWEEN].find((one) => one.kind === kind)!.name;

/** A new item of a kind. @param newId gives a new identity at each call. */
export function newItem(kind: ItemKind, first: string, newId: () => string): FormItem {
  const id = newId();
  const label = { [first]: '' };
  const choice = (words: string) => ({ id: newId(), label: { [first]: words } });
  const asked = { id, label, required: false };
  switch (kind) {
    case 'number':
      return { kind, ...asked, whole: false };
    case 'date':
      return { kind, ...asked, withTime: false };
    case 'one':
      return { kind, ...asked, choices: [choice('Yes'), choice('No')], other: false, look: 'list' };
    case 'several':
      return { kind, ...asked, choices: [choice('First'), choice('Second')], other: false };
    case 'grid':
      return {
        kind,
        ...asked,
        rows: [choice('First'), choice('Second')],
        choices: [choice('well'), choice('so-so'), choice('badly')],
        several: false,
      };
    case 'scale':
      return { kind, ...asked, from: 1, to: 5 };
    case 'name':
      return {
        kind,
        ...asked,
        label: { [first]: 'Name' },
        required: true,
        givenId: newId(),
        familyId: newId(),
      };
    case 'email':
      return { kind, ...asked, label: { [first]: 'Email' } };
    case 'phone':
      return { kind, ...asked, label: { [first]: 'Telephone' } };
    case 'file':
      return { kind, ...asked, takes: 'pictures', most: 1, megabytes: 10 };
    case 'hidden':
      return { kind, id, name: 'Value', prefill: 'value' };
    case 'section':
      return { kind, id, title: label };
    case 'page':
      return { kind, id };
    case 'words':
      return { kind, id, words: label };
    case 'picture':
      return { kind, id, assetId: null, alt: label };
    default:
      return { kind, ...asked };
  }
}
