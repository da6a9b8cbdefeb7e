import type { Column } from '@scriptum/core/column';
import { FORM_LIMITS, FormTerms, wordsIn, type Form } from '@scriptum/core/form';
import { newId } from '../../api/new-id';
import type { SentenceChange, SentencePart, SentencePiece } from '../../ui/sentence/sentence-piece';

const part = (
  id: string,
  label: string,
  text: string,
  value: string,
  options: SentencePart['options'],
  typed?: string,
): SentencePart => ({
  id,
  label,
  text,
  value,
  options,
  ...(typed ? { typed } : {}),
});

const WHO: Readonly<Record<FormTerms['who'], string>> = {
  anyone: 'anyone who has its link',
  roll: 'each learner of the roll',
  staff: 'staff who are signed in',
};

/** Who answers a form, when and how often, as a sentence. @param addresses columns of the roll that hold email addresses. */
export function termsSentence(
  { terms, items, languages }: Form,
  addresses: readonly Column[] = [],
): SentencePiece[] {
  const first = languages[0]!;
  const once = items.find(({ id }) => id === terms.onceBy);
  const name = once && 'label' in once ? wordsIn(once.label, first, first) : '';
  const canChange = terms.who === 'roll' ? 'can change their answers' : 'get a link to change their answers';
  const countable = items.filter(({ kind }) => ['short', 'email', 'phone', 'number'].includes(kind));
  const isOwn = terms.who === 'roll';
  return [
    'It is answered by ',
    part('who', 'who answers it', WHO[terms.who], terms.who, [
      { value: 'anyone', label: WHO.anyone },
      { value: 'roll', label: WHO.roll, hint: 'by a link or code of their own; it stands in their row' },
      { value: 'staff', label: WHO.staff },
    ]),
    '. It is open ',
    part(
      'opens',
      'from when',
      terms.opens ? 'from a set time' : 'as soon as it is published',
      terms.opens ? 'set' : '',
      [
        { value: '', label: 'as soon as it is published' },
        { value: 'set', label: 'from a set time' },
      ],
    ),
    ' ',
    part(
      'closes',
      'until when',
      terms.closes ? 'until a set time' : 'until somebody closes it',
      terms.closes ? 'set' : '',
      [
        { value: '', label: 'until somebody closes it' },
        { value: 'set', label: 'until a set time' },
      ],
    ),
    ', and takes ',
    part(
      'most',
      'how many answers',
      terms.most === null ? 'all answers' : `${terms.most} answers`,
      String(terms.most ?? ''),
      [{ value: '', label: 'all answers' }],
      'So many answers',
    ),
    ...(isOwn
      ? [', one for each learner']
      : [
          '. Each counts ',
          part(
            'once',
            'by what it counts once',
            once ? `once for each “${name}”` : 'as often as it is sent',
            once?.id ?? '',
            [
              { value: '', label: 'as often as it is sent' },
              ...countable.map((item) => ({
                value: item.id,
                label: `once for each “${'label' in item ? wordsIn(item.label, first, first) : ''}”`,
              })),
            ],
          ),
        ]),
    '. Afterwards people ',
    part(
      'mayChange',
      'whether answers can be changed',
      terms.mayChange ? canChange : 'cannot change their answers',
      String(terms.mayChange),
      [
        { value: 'false', label: 'cannot change their answers' },
        { value: 'true', label: canChange, hint: 'as long as the form is open' },
      ],
    ),
    ', ',
    copyPart({ terms, items, languages }, addresses),
    ', ',
    part(
      'paper',
      'whether they can take their paper along',
      terms.paper ? 'can take their paper along' : 'take no paper along',
      String(terms.paper),
      [
        { value: 'false', label: 'take no paper along' },
        { value: 'true', label: 'can take their paper along', hint: 'once it is pressed and may leave' },
      ],
    ),
    ', and ',
    part(
      'next',
      'where they go then',
      terms.next === null ? 'see the words above' : `go on to ${terms.next}`,
      terms.next ?? '',
      [{ value: '', label: 'see the words above' }],
      'They go on to this address',
    ),
    '. When each answer came ',
    part(
      'stamp',
      'whether the moment is noted',
      terms.stampId === null ? 'stands beside the row alone' : 'also stands in a column',
      String(terms.stampId !== null),
      [
        { value: 'false', label: 'stands beside the row alone' },
        { value: 'true', label: 'also stands in a column', hint: 'for letters, rules and files' },
      ],
    ),
    '. It ',
    part(
      'embed',
      'where it may stand',
      terms.embed ? 'may also stand inside other pages' : 'stands on a page of its own',
      String(terms.embed),
      [
        { value: 'false', label: 'stands on a page of its own' },
        { value: 'true', label: 'may also stand inside other pages', hint: 'such as the school’s web site' },
      ],
    ),
    '.',
  ];
}

/** Whether a copy of the answers is mailed, and where to. */
function copyPart(
  { terms, items, languages }: Pick<Form, 'terms' | 'items' | 'languages'>,
  addresses: readonly Column[],
): SentencePart {
  const first = languages[0]!;
  const asked = items.flatMap((item) =>
    item.kind === 'email'
      ? [{ value: item.id, label: `get a copy of them at “${wordsIn(item.label, first, first)}”` }]
      : [],
  );
  // Of learners of the roll the school knows addresses itself.
  const known =
    terms.who === 'roll'
      ? addresses.map(({ id, title }) => ({
          value: id,
          label: `get a copy of them at “${title}”`,
          hint: 'a column of the roll',
        }))
      : [];
  const options = [{ value: '', label: 'get no copy of them' }, ...asked, ...known];
  const chosen = options.find(({ value }) => value === (terms.copyTo ?? ''));
  return part(
    'copy',
    'whether a copy is mailed',
    chosen?.label ?? 'get no copy of them',
    terms.copyTo ?? '',
    options,
  );
}

/** The form with what was chosen in the sentence of its terms. */
export function changeTerms(
  form: Form,
  { id, value }: SentenceChange,
  now = new Date(),
  stampId = newId,
): Form {
  const set = (terms: Partial<FormTerms>): Form => ({ ...form, terms: { ...form.terms, ...terms } });
  switch (id) {
    case 'opens':
      return set({ opens: value ? (form.terms.opens ?? fullHour(now, 1)) : null });
    case 'closes':
      return set({ closes: value ? (form.terms.closes ?? fullHour(now, 14 * 24)) : null });
    case 'most': {
      const most = Number(value);
      if (value === '') return set({ most: null });
      return Number.isInteger(most) && most >= 1 && most <= FORM_LIMITS.answers ? set({ most }) : form;
    }
    case 'once':
      return set({ onceBy: value || null });
    case 'who':
      return value === 'anyone' || value === 'roll' || value === 'staff'
        ? set({
            who: value,
            ...(value === 'roll' ? { onceBy: null } : {}),
            // An address of the roll is known of its learners alone.
            ...(form.items.some((item) => item.id === form.terms.copyTo) ? {} : { copyTo: null }),
          })
        : form;
    case 'next': {
      const url = value.trim();
      if (url === '') return set({ next: null });
      const next = /^[a-z]+:/i.test(url) ? url : `https://${url}`;
      return FormTerms.shape.next.safeParse(next).success ? set({ next }) : form;
    }
    case 'stamp':
      return set({ stampId: value === 'true' ? (form.terms.stampId ?? stampId()) : null });
    case 'mayChange':
      return set({ mayChange: value === 'true' });
    case 'copy':
      return set({ copyTo: value || null });
    case 'paper':
      return set({ paper: value === 'true' });
    case 'embed':
      return set({ embed: value === 'true' });
    default:
      return form;
  }
}

/** The full hour so many hours from now. */
function fullHour(now: Date, hours: number): string {
  const at = new Date(now.getTime() + hours * 3_600_000);
  at.setMinutes(0, 0, 0);
  return at.toISOString();
}

/** A moment as a box for moments has it, by the screen's clock. */
export function localMoment(iso: string): string {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
