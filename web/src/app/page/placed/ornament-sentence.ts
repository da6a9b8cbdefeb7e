import { FIRST_ORNAMENTS, Ornament, ORNAMENT_PATTERNS, type OrnamentKind } from '@scriptum/core/ornament';
import type { SentenceChange, SentencePiece } from '../../ui/sentence/sentence-piece';
import { choice, colourIn, colourPart, measure, numberIn, type NamedColours } from './sentence-parts';

export const ORNAMENT_NAMES: Readonly<Record<OrnamentKind, string>> = {
  border: 'border',
  corners: 'corner pieces',
  rosette: 'rosette',
  waves: 'waves',
  seal: 'seal',
  laurel: 'laurel',
  divider: 'divider',
};

const PATTERN_NAMES: Readonly<Record<string, string>> = {
  interlace: 'interlaced waves',
  rules: 'plain rules',
  twist: 'twisted cords',
  beads: 'beads',
  steps: 'steps',
  leaves: 'leaves',
  curl: 'curls',
  fan: 'fans',
  sprig: 'sprigs',
  petals: 'petals',
  rings: 'rings',
  star: 'ovals',
  braid: 'a braid',
  swell: 'a swell',
  ground: 'a whole ground',
  scalloped: 'scallops',
  pointed: 'points',
  ribbons: 'scallops and ribbons',
  oak: 'oak leaves',
  outline: 'leaves in outline',
  diamond: 'a diamond',
  curls: 'curls',
  taper: 'a tapering rule',
  dots: 'dots',
};

const COUNTED: Readonly<Partial<Record<OrnamentKind, readonly [word: string, offers: readonly number[]]>>> = {
  rosette: ['petals', [6, 8, 10, 12, 16, 24]],
  waves: ['waves', [4, 8, 12, 20, 40]],
  seal: ['points', [24, 36, 48, 60]],
  laurel: ['pairs of leaves', [7, 9, 11, 13, 16]],
};

const STRENGTHS = [
  ['1', 'in full'],
  ['0.6', 'lighter'],
  ['0.35', 'light'],
  ['0.2', 'very light'],
  ['0.1', 'as a breath'],
] as const;

/** How an ornament looks, as a sentence. */
export function ornamentSentence(ornament: Ornament, colours: NamedColours): SentencePiece[] {
  const { kind, pattern, colour, second, weight, strength } = ornament;
  const counted = COUNTED[kind];
  const pieces: SentencePiece[] = [
    'A ',
    choice('kind', 'what it is', kind, Object.entries(ORNAMENT_NAMES)),
    ' of ',
    choice(
      'pattern',
      'its pattern',
      pattern,
      ORNAMENT_PATTERNS[kind].map((one) => [one, PATTERN_NAMES[one] ?? one] as const),
    ),
  ];
  if (ornament.kind === 'border')
    pieces.push(
      ', ',
      measure('size', 'how wide it is', ornament.size, 'mm', [3, 5, 8, 10, 12, 16]),
      ' wide with corners of ',
      measure('radius', 'the radius of its corners', ornament.radius, 'mm', [0, 3, 6, 10, 15]),
    );
  if (ornament.kind === 'corners')
    pieces.push(', ', measure('size', 'how large each is', ornament.size, 'mm', [15, 20, 30, 40, 60]));
  if (counted && 'count' in ornament)
    pieces.push(' with ', measure('count', `how many ${counted[0]}`, ornament.count, counted[0], counted[1]));
  pieces.push(
    ', in ',
    colourPart('colour', 'its colour', colour, colours),
    ' and ',
    colourPart('second', 'its second colour', second, colours, 'the same'),
    ', lines of ',
    measure('weight', 'how thick its lines are', weight, 'mm', [0.1, 0.15, 0.2, 0.3, 0.5, 0.8]),
    ', printed ',
    choice('strength', 'how strongly it is printed', String(strength), strengths(strength)),
    '.',
  );
  return pieces;
}

/** One that was set otherwise, in a file, is told too. */
const strengths = (strength: number): readonly (readonly [string, string])[] =>
  STRENGTHS.some(([value]) => Number(value) === strength)
    ? STRENGTHS
    : [...STRENGTHS, [String(strength), `at ${Math.round(strength * 100)} %`]];

/** The ornament after a part of its sentence was changed; the same where the change makes no sense. */
export function changeOrnament(ornament: Ornament, { id, value }: SentenceChange): Ornament {
  const changed = changeOf(ornament, id, value);
  const read = Ornament.safeParse(changed);
  return read.success ? read.data : ornament;
}

function changeOf(ornament: Ornament, id: string, value: string): unknown {
  switch (id) {
    case 'kind': {
      const first = FIRST_ORNAMENTS[value as OrnamentKind];
      // Its look stays, as far as the other kind has it.
      return (
        first && { ...first, colour: ornament.colour, second: ornament.second, strength: ornament.strength }
      );
    }
    case 'colour':
      return { ...ornament, colour: colourIn(value) };
    case 'second':
      return { ...ornament, second: value === '' ? undefined : colourIn(value) };
    case 'pattern':
      return { ...ornament, pattern: value };
    default:
      return { ...ornament, [id]: numberIn(value.replace(/[^\d.,-]/g, ''), 0, 1000) };
  }
}
