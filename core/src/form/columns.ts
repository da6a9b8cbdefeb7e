import type { Column } from '../column/index.js';
import { columnIdsOf } from './given.js';
import type { Form, FormItem } from './form.js';
import { wordsIn } from './words-in.js';

/** Between several answers in one cell. */
export const BETWEEN_CHOICES = ';';

/** The columns that a form's answers stand in, in the order of its questions; titles are its words in its first language. */
export function columnsOfForm({ items, languages }: Pick<Form, 'items' | 'languages'>): Column[] {
  const first = languages[0]!;
  return items.flatMap((item) => columnsOf(item, (words) => wordsIn(words, first, first).slice(0, 300)));
}

function columnsOf(item: FormItem, say: (words: Readonly<Record<string, string>>) => string): Column[] {
  const [id] = columnIdsOf(item);
  if (id === undefined) return [];
  const column = (more: Omit<Column, 'id' | 'title'>): Column[] => [
    { id, title: 'label' in item ? say(item.label) || 'Untitled question' : '', ...more },
  ];
  switch (item.kind) {
    case 'number':
    case 'scale':
      return column({ type: 'number' });
    case 'date':
      return column({ type: item.withTime ? 'date-time' : 'date' });
    case 'one':
      return column({ type: 'choice' });
    case 'several':
      return column(severalChoices);
    case 'email':
      return column({ type: 'email' });
    case 'phone':
      return column({ type: 'phone' });
    case 'consent':
      return column({ type: 'yes/no' });
    case 'signature':
      return column({ type: 'picture' });
    case 'file':
      return column(isOnePicture(item) ? { type: 'picture' } : {});
    case 'grid': {
      const label = say(item.label);
      return item.rows.map((row): Column => ({
        id: row.id,
        title: [label, say(row.label)].filter(Boolean).join(': ') || 'Untitled question',
        ...(item.several ? severalChoices : { type: 'choice' }),
      }));
    }
    case 'name':
      return [
        { id: item.givenId, title: 'First name', role: 'given name' },
        { id: item.familyId, title: 'Surname', role: 'surname' },
      ];
    case 'hidden':
      return [{ id, title: item.name || 'Untitled value' }];
    default:
      return column({});
  }
}

const severalChoices = { type: 'several choices', format: { separator: BETWEEN_CHOICES } } as const;

/** True where what is brought is a picture of the entry, which papers can show. */
export const isOnePicture = (item: FormItem): boolean =>
  item.kind === 'signature' || (item.kind === 'file' && item.takes === 'pictures' && item.most === 1);
