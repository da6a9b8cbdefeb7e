import { columnIdsOf, columnsOfForm, FORM_LIMITS, type Form, type FormItem } from '@scriptum/core/form';
import type { Column } from '@scriptum/core/column';
import { changePart, partSentence } from '../../editor/condition-sentence';
import type {
  SentenceChange,
  SentenceOption,
  SentencePart,
  SentencePiece,
} from '../../ui/sentence/sentence-piece';

/** What an item's sentence is made for. */
export interface ItemSurroundings {
  readonly form: Form;
  readonly item: FormItem;
  /** Columns that the roll has without this form. */
  readonly others: readonly Column[];
}

const option = (value: string, label: string, hint?: string): SentenceOption => ({
  value,
  label,
  ...(hint ? { hint } : {}),
});
const part = (
  id: string,
  label: string,
  text: string,
  value: string,
  options: readonly SentenceOption[],
  typed?: string,
): SentencePart => ({ id, label, text, value, options, ...(typed ? { typed } : {}) });

/** How an item is answered, as a sentence. */
export function itemSentence({ form, item, others }: ItemSurroundings): SentencePiece[] {
  if (!('label' in item)) return item.kind === 'hidden' ? hiddenSentence(item) : [];
  const pieces: SentencePiece[] = [
    'It ',
    part(
      'required',
      'whether it has to be answered',
      item.required ? 'has to be answered' : 'may be left blank',
      String(item.required),
      [option('true', 'has to be answered'), option('false', 'may be left blank')],
    ),
    ...kindPieces(item),
    '. ',
  ];
  if (item.kind !== 'name' && item.kind !== 'grid')
    pieces.push(...columnPieces(item, freeFor(item, form, others)));
  if (item.kind === 'short' || item.kind === 'long' || item.kind === 'number')
    pieces.push(
      ' It begins ',
      part(
        'initial',
        'what stands there to begin with',
        item.initial ? `with “${item.initial}”` : 'blank',
        item.initial ?? '',
        [option('', 'blank')],
        'With this',
      ),
      '.',
    );
  if (canBring(item))
    pieces.push(
      ' ',
      part(
        'prefill',
        'whether a link brings the answer along',
        item.prefill
          ? `A link brings the answer along as ?${item.prefill}=…`
          : 'No link brings the answer along',
        item.prefill ?? '',
        [
          option('', 'No link brings the answer along'),
          ...(item.prefill
            ? []
            : [option(prefillName(form, item), `A link brings it along as ?${prefillName(form, item)}=…`)]),
        ],
        'Under this name',
      ),
      '.',
    );
  return pieces;
}

const canBring = (
  item: FormItem,
): item is Extract<FormItem, { prefill?: string | undefined; label: unknown }> =>
  'label' in item && !['grid', 'name', 'file', 'signature', 'consent'].includes(item.kind);

/** A name for links that no other item has. */
function prefillName({ items, languages }: Form, item: FormItem): string {
  const words = 'label' in item ? (item.label[languages[0]!] ?? '') : '';
  const plain =
    words
      .normalize('NFKD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^[^a-z]+|-+$/g, '')
      .slice(0, 20)
      .replace(/-+$/, '') || 'answer';
  const taken = new Set(
    items.flatMap((one) => ('prefill' in one && one.id !== item.id ? one.prefill : undefined) ?? []),
  );
  for (let n = 1; ; n++) {
    const name = n === 1 ? plain : `${plain}-${n}`;
    if (!taken.has(name)) return name;
  }
}

/** Columns that no other question goes into. */
function freeFor(item: FormItem, { items }: Form, others: readonly Column[]): readonly Column[] {
  const used = new Set(items.flatMap((one) => (one.id === item.id ? [] : columnIdsOf(one))));
  return others.filter(({ id }) => !used.has(id));
}

function columnPieces(item: FormItem, others: readonly Column[]): SentencePiece[] {
  const known = others.find(({ id }) => 'columnId' in item && id === item.columnId);
  return [
    'Its answers stand in ',
    part(
      'column',
      'the column of its answers',
      known ? known.title : 'a column of its own',
      known?.id ?? '',
      [option('', 'a column of its own'), ...others.map(({ id, title }) => option(id, title))],
    ),
    '.',
  ];
}

function hiddenSentence(item: Extract<FormItem, { kind: 'hidden' }>): SentencePiece[] {
  return [
    'The link brings it along as ',
    part('prefill', 'the name in the link', `?${item.prefill}=…`, item.prefill, [], 'Under this name'),
    ', and where it does not, it is ',
    part(
      'initial',
      'what it is without',
      item.initial ? `“${item.initial}”` : 'blank',
      item.initial ?? '',
      [option('', 'blank')],
      'This',
    ),
    '.',
  ];
}

const numbers = (from: number, to: number, say: (n: number) => string = String): SentenceOption[] =>
  Array.from({ length: to - from + 1 }, (_, n) => option(String(from + n), say(from + n)));

function kindPieces(item: FormItem): SentencePiece[] {
  switch (item.kind) {
    case 'short':
    case 'long': {
      const pieces: SentencePiece[] = [
        ', has ',
        part(
          'least',
          'the fewest characters',
          item.least ? `at least ${item.least}` : 'any number of',
          String(item.least ?? ''),
          [option('', 'any number of')],
          'At least so many',
        ),
        ' and ',
        part(
          'most',
          'the most characters',
          item.most ? `at most ${item.most}` : 'no end of',
          String(item.most ?? ''),
          [option('', 'no end of')],
          'At most so many',
        ),
        ' characters',
      ];
      if (item.kind === 'long') return pieces;
      const rule = item.rule;
      return [
        ...pieces,
        ', and ',
        part(
          'rule',
          'what it is like',
          !rule ? 'anything goes' : rule.is === 'only' ? `has ${rule.of} alone` : `${rule.is} “${rule.text}”`,
          !rule ? '' : rule.is === 'only' ? `only ${rule.of}` : rule.is,
          [
            option('', 'anything goes'),
            option('only digits', 'has digits alone'),
            option('only letters', 'has letters alone'),
            option('only letters and digits', 'has letters and digits alone'),
            option('only capitals and digits', 'has capitals and digits alone', 'such as a code'),
            option('begins with', 'begins with …'),
            option('ends with', 'ends with …'),
            option('contains', 'contains …'),
          ],
        ),
        ...(rule && rule.is !== 'only'
          ? [' ', part('ruleText', 'with which words', `“${rule.text}”`, rule.text, [], 'These words')]
          : []),
      ];
    }
    case 'number':
      return [
        ', is ',
        part(
          'whole',
          'whether it is whole',
          item.whole ? 'a whole number' : 'any number',
          String(item.whole),
          [option('false', 'any number'), option('true', 'a whole number')],
        ),
        ' from ',
        part(
          'least',
          'the lowest',
          item.least ?? 'as low as it gets',
          item.least ?? '',
          [option('', 'as low as it gets')],
          'From here',
        ),
        ' to ',
        part(
          'most',
          'the highest',
          item.most ?? 'as high as it gets',
          item.most ?? '',
          [option('', 'as high as it gets')],
          'To here',
        ),
      ];
    case 'date':
      return [
        ', is ',
        part(
          'withTime',
          'whether it has a time',
          item.withTime ? 'a day with a time' : 'a day',
          String(item.withTime),
          [option('false', 'a day'), option('true', 'a day with a time')],
        ),
        ' from ',
        part(
          'first',
          'the first day',
          item.first ?? 'any day',
          item.first ?? '',
          [option('', 'any day')],
          'From this day (YYYY-MM-DD)',
        ),
        ' to ',
        part(
          'last',
          'the last day',
          item.last ?? 'any day',
          item.last ?? '',
          [option('', 'any day')],
          'To this day (YYYY-MM-DD)',
        ),
      ];
    case 'time':
      return [
        ', lies between ',
        part(
          'first',
          'the first time',
          item.first ?? '0:00',
          item.first ?? '',
          [option('', '0:00')],
          'From this time (15:30)',
        ),
        ' and ',
        part(
          'last',
          'the last time',
          item.last ?? '24:00',
          item.last ?? '',
          [option('', '24:00')],
          'To this time (15:30)',
        ),
      ];
    case 'one':
      return [
        ', is shown as ',
        part('look', 'how it is shown', item.look === 'list' ? 'a list' : 'a box that opens', item.look, [
          option('list', 'a list'),
          option('drop-down', 'a box that opens', 'for many answers'),
        ]),
        ', and ',
        otherPart(item.other),
      ];
    case 'several':
      return [
        ', takes ',
        part(
          'least',
          'the fewest',
          item.least ? `at least ${item.least}` : 'any number',
          String(item.least ?? ''),
          [option('', 'any number'), ...numbers(1, Math.max(1, item.choices.length), (n) => `at least ${n}`)],
        ),
        ' and ',
        part('most', 'the most', item.most ? `at most ${item.most}` : 'all', String(item.most ?? ''), [
          option('', 'all'),
          ...numbers(1, Math.max(1, item.choices.length), (n) => `at most ${n}`),
        ]),
        ' of them, and ',
        otherPart(item.other),
      ];
    case 'grid':
      return [
        ', and takes ',
        part('several', 'how many in a row', item.several ? 'any of them' : 'one', String(item.several), [
          option('false', 'one'),
          option('true', 'any of them'),
        ]),
        ' in each row',
      ];
    case 'scale':
      return [
        ', and goes from ',
        part('from', 'the lowest', String(item.from), String(item.from), [
          option('0', '0'),
          option('1', '1'),
        ]),
        ' to ',
        part('to', 'the highest', String(item.to), String(item.to), numbers(2, 10)),
      ];
    case 'file':
      return [
        ', takes ',
        part('most', 'how many files', item.most === 1 ? 'one' : `up to ${item.most}`, String(item.most), [
          option('1', 'one'),
          ...numbers(2, FORM_LIMITS.files, (n) => `up to ${n}`),
        ]),
        ' ',
        part(
          'takes',
          'of which kind',
          TAKES[item.takes],
          item.takes,
          Object.entries(TAKES).map(([value, label]) => option(value, label)),
        ),
        ' of at most ',
        part(
          'megabytes',
          'how large',
          `${item.megabytes} MB`,
          String(item.megabytes),
          [1, 2, 5, 10, 20].map((n) => option(String(n), `${n} MB`)),
        ),
      ];
    default:
      return [];
  }
}

const TAKES = {
  pictures: 'picture',
  pdf: 'PDF',
  papers: 'paper (PDF, Word, Excel, OpenDocument, picture)',
} as const;
const otherPart = (other: boolean): SentencePart =>
  part(
    'other',
    'whether something else can be written',
    other ? 'lets people write something else' : 'has no other answers',
    String(other),
    [option('false', 'has no other answers'), option('true', 'lets people write something else')],
  );

/** When an item is asked, as a sentence; columns are those of what is asked before it. */
export function shownSentence({ form, item }: ItemSurroundings): SentencePiece[] {
  const { columns } = before(form, item);
  const begin = item.kind === 'page' ? 'This page comes ' : 'label' in item ? 'It is asked ' : 'It stands ';
  return partSentence(
    item.shownIf ?? null,
    { columns, entry: undefined, cellsOf: (id) => cellsOf(form, id) },
    begin,
  ).map((piece) =>
    typeof piece !== 'string' && piece.id === 'stands'
      ? {
          ...piece,
          text: piece.value === 'always' ? 'always' : piece.text,
          options: [option('always', 'always'), option('if', 'only if …', 'after some answers')],
        }
      : piece,
  );
}

function before(form: Form, item: FormItem): { columns: Column[] } {
  const at = form.items.findIndex(({ id }) => id === item.id);
  return { columns: columnsOfForm({ ...form, items: form.items.slice(0, Math.max(0, at)) }) };
}

/** The answers that can be picked, to be compared with. */
function cellsOf({ items, languages }: Form, columnId: string): string[] {
  const item = items.find((one) => columnIdsOf(one).includes(columnId));
  if (!item || !('choices' in item)) return [];
  return item.choices.flatMap(({ label }) => label[languages[0]!] || []);
}

/** The item with what was chosen in one of its sentences. */
export function changeItem({ form, item }: ItemSurroundings, change: SentenceChange): FormItem {
  const { id, value } = change;
  const shown = changesShown(id);
  if (shown) {
    const { columns } = before(form, item);
    const shownIf = changePart(item.shownIf ?? null, change, { columns, entry: undefined });
    const { shownIf: _, ...rest } = item;
    return (shownIf ? { ...rest, shownIf } : rest) as FormItem;
  }
  const set = (key: string, now: unknown): FormItem => {
    const { [key]: _, ...rest } = item as FormItem & Record<string, unknown>;
    return (now === undefined ? rest : { ...rest, [key]: now }) as FormItem;
  };
  switch (id) {
    case 'required':
    case 'whole':
    case 'withTime':
    case 'other':
    case 'several':
      return set(id, value === 'true');
    case 'from':
    case 'to':
    case 'megabytes':
      return set(id, Number(value));
    case 'column':
      return set('columnId', value || undefined);
    case 'prefill':
      return value === ''
        ? set('prefill', undefined)
        : /^[a-z][a-z0-9-]{0,39}$/.test(value)
          ? set('prefill', value)
          : item;
    case 'initial':
      return set(
        'initial',
        item.kind === 'number' && value !== '' ? (limitOf(item, value) ?? item.initial) : value || undefined,
      );
    case 'rule':
      return set('rule', ruleOf(value));
    case 'ruleText':
      return 'rule' in item && item.rule && item.rule.is !== 'only' && value.trim()
        ? set('rule', { ...item.rule, text: value.trim().slice(0, 100) })
        : item;
    case 'first':
    case 'last':
      return set(id, momentOf(item, value));
    case 'least':
    case 'most':
      return set(id, limitOf(item, value));
    case 'look':
    case 'takes':
      return set(id, value);
    default:
      return item;
  }
}

const changesShown = (id: string): boolean =>
  id === 'stands' || id === 'how' || id === 'add' || /^(if|is|with|and) \d+$/.test(id);

function ruleOf(value: string): unknown {
  if (value === '') return undefined;
  const [, of] = /^only (.*)$/.exec(value) ?? [];
  return of ? { is: 'only', of } : { is: value, text: '…' };
}

function momentOf(item: FormItem, value: string): string | undefined {
  const fits = item.kind === 'time' ? /^([01]\d|2[0-3]):[0-5]\d$/ : /^\d{4}-\d{2}-\d{2}$/;
  const filled = item.kind === 'time' && /^\d:\d\d$/.test(value) ? `0${value}` : value;
  return fits.test(filled) && (item.kind === 'time' || !Number.isNaN(Date.parse(filled)))
    ? filled
    : undefined;
}

function limitOf(item: FormItem, value: string): string | number | undefined {
  if (value === '') return undefined;
  const plain = value.trim().replace(',', '.');
  if (item.kind === 'number') return /^-?\d{1,15}(\.\d{1,9})?$/.test(plain) ? plain : undefined;
  const number = Number(plain);
  return Number.isInteger(number) && number >= 1 && number <= FORM_LIMITS.text ? number : undefined;
}
