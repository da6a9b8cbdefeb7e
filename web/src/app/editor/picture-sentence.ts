import type { Field, PictureFilling } from '@scriptum/core/template';
import type { SentenceChange, SentencePart } from '../ui/sentence/sentence-piece';
import { columnOptions, titleOf } from './condition-sentence';
import type { SentenceLine, TableSurroundings } from './table-sentence';

type Around = Pick<TableSurroundings, 'columns' | 'entry'>;

const FITS: Readonly<Record<PictureFilling['fit'], { label: string; hint: string }>> = {
  whole: { label: 'shown whole', hint: 'As large as the room allows' },
  'cut below': { label: 'cut to a face', hint: 'The room is full; more is cut below than above' },
  'cut around': { label: 'cut all around', hint: 'The room is full; alike is cut on all sides' },
};
const SIDES: Readonly<Record<PictureFilling['side'], string>> = {
  left: 'on the left',
  center: 'in the middle',
  right: 'on the right',
};

/** A learner's own picture as a sentence: which, how large, and where. */
export function pictureSentence(
  { columnId, name, whenBlank }: Field,
  { width, height, fit, side }: PictureFilling,
  around: Around,
): SentenceLine {
  const title = titleOf(columnId, around.columns);
  return {
    id: 'about',
    label: 'How the picture stands',
    pieces: [
      'The picture in ',
      {
        id: 'column',
        label: 'the column',
        text: title ?? (name || 'choose a column'),
        value: columnId ?? '',
        options: columnOptions(around),
        ...(title === null ? { look: 'missing' as const } : {}),
      },
      ', in a room ',
      sizePart('width', width, 'wide'),
      ' and ',
      sizePart('height', height, 'high'),
      ', ',
      {
        id: 'fit',
        label: 'how it fits',
        text: FITS[fit].label,
        value: fit,
        options: Object.entries(FITS).map(([value, { label, hint }]) => ({ value, label, hint })),
      },
      ', ',
      {
        id: 'side',
        label: 'where it stands',
        text: SIDES[side],
        value: side,
        options: Object.entries(SIDES).map(([value, label]) => ({ value, label })),
      },
      '. For whom there is none: ',
      {
        id: 'blank',
        label: 'what is done where there is none',
        text: whenBlank?.do === 'hold' ? 'the paper waits' : 'nothing stands there',
        value: whenBlank?.do === 'hold' ? 'hold' : 'nothing',
        options: [
          { value: 'nothing', label: 'nothing stands there' },
          { value: 'hold', label: 'the paper waits', hint: 'It is held when it is pressed' },
        ],
      },
      '.',
    ],
  };
}

const sizePart = (id: 'width' | 'height', mm: number, word: string): SentencePart => ({
  id,
  label: `how ${word} its room is`,
  text: `${mm} mm ${word}`,
  value: String(mm),
  options: [25, 35, 45, 60, 90, 120, 160].map((size) => ({
    value: String(size),
    label: `${size} mm ${word}`,
  })),
  typed: 'So many millimetres',
});

/** The field after a part of its sentence was changed. */
export function changePicture(
  field: Field,
  picture: PictureFilling,
  { id, value }: SentenceChange,
  { columns }: Around,
): Field {
  switch (id) {
    case 'column': {
      const name = columns.find((column) => column.id === value)?.title ?? '';
      return { ...field, columnId: value, name };
    }
    case 'width':
    case 'height': {
      const mm = Number(value.replace(',', '.').replace(/\s*mm$/, ''));
      return mm >= 5 && mm <= 400 ? { ...field, picture: { ...picture, [id]: mm } } : field;
    }
    case 'fit':
      return { ...field, picture: { ...picture, fit: value as PictureFilling['fit'] } };
    case 'side':
      return { ...field, picture: { ...picture, side: value as PictureFilling['side'] } };
    case 'blank': {
      const { whenBlank: _, ...rest } = field;
      return value === 'hold' ? { ...rest, whenBlank: { do: 'hold' } } : rest;
    }
    default:
      return field;
  }
}
