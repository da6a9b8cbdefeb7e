import type { Letterhead, PlacedBox, TextBox } from '@scriptum/core/template';
import { PAPER_FONTS } from '@scriptum/core/template';
import type { SentencePiece } from '../../ui/sentence/sentence-piece';
import { ornamentSentence } from './ornament-sentence';
import { choice, colourPart, measure, type NamedColours } from './sentence-parts';

/** What a box's sentence is made for. */
export interface BoxSurroundings {
  readonly colours: NamedColours;
  readonly letterhead: Letterhead | null;
  /** The template's type, which boxes have where nothing is said. */
  readonly font: { readonly family: string; readonly size: number };
  /** Whether the fields of the form below stay fields. */
  readonly fillable: boolean;
  /** The lines of the form below that run through a place. */
  readonly linesThrough: (box: TextBox) => TextBox['baseline'] | null;
  /** The places that the text of one may go on in, with their names. */
  readonly goOnIn: (box: TextBox) => readonly (readonly [id: string, name: string])[];
}

/** Stands for a place that is yet to be made, for a text to go on in. */
export const NEW_PLACE = 'new';

const SIZES = [8, 9, 10, 11, 12, 14, 16, 18, 20, 24, 30, 36, 48, 60, 72];
const WEIGHTS = [0.1, 0.2, 0.3, 0.5, 0.8, 1, 2];
const DASHES = [
  ['plain', 'plain'],
  ['dashed', 'dashed'],
  ['dotted', 'dotted'],
] as const;

/** How a box looks, and what happens with what stands in it, as a sentence to be changed. */
export function boxSentence(box: PlacedBox, around: BoxSurroundings): SentencePiece[] {
  const { colours } = around;
  switch (box.kind) {
    case 'text':
      return [...typePieces(box.type, around), ...placePieces(box), ...longPieces(box, around)];
    case 'picture':
      return ['The picture is ', fitPart(box.fit), '.'];
    case 'ownPicture':
      return ["Each learner's picture is ", fitPart(box.fit), '.'];
    case 'line':
      return [
        'A ',
        choice('dashes', 'how it is drawn', box.stroke.dashes ?? 'plain', DASHES),
        ' line of ',
        measure('weight', 'how thick it is', box.stroke.weight, 'mm', WEIGHTS),
        ' in ',
        colourPart('colour', 'its colour', box.stroke.colour, colours),
        ', ',
        choice('rising', 'which way it runs', box.rising ? 'yes' : 'no', [
          ['no', 'falling to the right'],
          ['yes', 'rising to the right'],
        ]),
        '.',
      ];
    case 'shape':
      return shapePieces(box, colours);
    case 'ornament':
      return ornamentSentence(box.ornament, colours);
    case 'signOff':
      return [
        choice(
          'signOff',
          'who signs',
          box.signOffId,
          (around.letterhead?.signOffs ?? []).map(({ id, name, role }) => [id, name, role] as const),
        ),
        ' signs ',
        choice('align', 'where the name stands', box.align, SIDES),
        ', ',
        choice('rule', 'whether there is a line', box.rule ? 'yes' : 'no', [
          ['yes', 'on a line'],
          ['no', 'without a line'],
        ]),
        ', ',
        choice('words', 'what stands below', box.words === false ? 'no' : 'yes', [
          ['yes', 'with name and role below'],
          ['no', 'without words'],
        ]),
        '.',
      ];
    case 'letterhead':
      return [
        choice('show', 'what of the letterhead', box.show, [
          ['whole', 'All of the letterhead'],
          ['crest', 'The crest of the school'],
          ['name', 'The name of the school'],
        ]),
        ' stands here',
        ...(box.show === 'whole'
          ? []
          : [', ', choice('align', 'where it stands', box.align ?? 'center', SIDES)]),
        '.',
      ];
    case 'tick':
      return [
        'A ',
        choice('mark', 'what is drawn', box.mark, [
          ['cross', 'cross'],
          ['check', 'tick'],
          ['dot', 'dot'],
          ['ring', 'ring'],
          ['bar', 'stroke'],
        ]),
        ' in ',
        colourPart('colour', 'its colour', box.colour, colours),
        ', lines of ',
        measure('weight', 'how thick its lines are', box.weight, 'mm', WEIGHTS),
        '.',
      ];
    case 'comb':
      return [
        measure('cells', 'how many cells', box.cells, 'cells', [4, 6, 8, 10, 12, 16, 20]),
        ', filled from the ',
        choice('from', 'which end is filled first', box.from, [
          ['left', 'left'],
          ['right', 'right'],
        ]),
        ', ',
        choice('capitals', 'whether in capitals', box.capitals ? 'yes' : 'no', [
          ['no', 'as written'],
          ['yes', 'in capitals'],
        ]),
        ', ',
        choice('ruled', 'whether the cells have lines', box.ruled ? 'yes' : 'no', [
          ['no', 'without lines'],
          ['yes', 'with lines'],
        ]),
        '. ',
        ...typePieces(box.type, around),
        '.',
      ];
    case 'code':
      return [
        'A ',
        choice('code', 'what kind of code', box.code, [
          ['qr', 'QR code', 'For telephones; holds any text'],
          ['code128', 'bar code', 'Code 128; letters and figures without accents'],
        ]),
        ' in ',
        colourPart('colour', 'its colour', box.colour, colours),
        ', ',
        choice('words', 'whether it is printed in words too', box.words ? 'yes' : 'no', [
          ['no', 'without words'],
          ['yes', 'with its words below'],
        ]),
        '.',
      ];
  }
}

const SIDES = [
  ['left', 'on the left'],
  ['center', 'in the middle'],
  ['right', 'on the right'],
] as const;

const fitPart = (fit: 'whole' | 'cut') =>
  choice('fit', 'how it fits', fit, [
    ['whole', 'shown whole'],
    ['cut', 'cut to fill its place'],
  ]);

function typePieces(type: TextBox['type'] = {}, { font, colours }: BoxSurroundings): SentencePiece[] {
  return [
    'Set in ',
    choice('family', 'the typeface', type.family ?? '', [
      ['', `${font.family}, as all`],
      ...PAPER_FONTS.map((one) => [one, one] as const),
    ]),
    ' at ',
    measure('size', 'the size', type.size ?? font.size, 'pt', SIZES),
    ' in ',
    colourPart('colour', 'the colour', type.colour, colours, 'black'),
    ...(type.spacing
      ? [
          ', ',
          measure(
            'spacing',
            'how far its letters stand apart',
            type.spacing,
            '‰ apart',
            [0, 20, 50, 100, 200],
          ),
        ]
      : [
          ', ',
          {
            ...measure('spacing', 'how far its letters stand apart', 0, '‰ apart', [0, 20, 50, 100, 200]),
            text: 'letters as they are',
          },
        ]),
  ];
}

function placePieces({ align, vertical, baseline }: TextBox): SentencePiece[] {
  const side = [', ', choice('align', 'which side its lines keep to', align ?? '', TEXT_SIDES)];
  if (baseline)
    return [
      ...side,
      ', ',
      choice('vertical', 'where it stands in its place', 'lines', VERTICALS),
      ', the first ',
      measure('first', 'how far down the first line is', baseline.first, 'mm', [4, 5, 6, 8, 10]),
      ' down and each ',
      measure('pitch', 'how far lines are apart', baseline.pitch ?? 6, 'mm', [5, 6, 7, 8, 10]),
      ' below it. ',
    ];
  return [
    ...side,
    ', ',
    choice('vertical', 'where it stands in its place', vertical ?? 'top', VERTICALS),
    '. ',
  ];
}

const TEXT_SIDES = [
  ['', 'from where lines begin'],
  ['left', 'from the left'],
  ['center', 'in the middle'],
  ['right', 'from the right'],
  ['justify', 'even at both sides'],
] as const;

const VERTICALS = [
  ['top', 'at the top'],
  ['middle', 'half way down'],
  ['bottom', 'at the bottom'],
  ['lines', 'on the lines of a form', 'The first baseline and how far lines are apart are given'],
] as const;

function longPieces(box: TextBox, { font, goOnIn }: BoxSurroundings): SentencePiece[] {
  const { long = { do: 'wrap' }, oneLine, type } = box;
  const size = type?.size ?? font.size;
  return [
    choice('oneLine', 'whether it may be broken', oneLine ? 'yes' : 'no', [
      ['no', 'It runs over several lines'],
      ['yes', 'It stays on one line'],
    ]),
    '; where there is too much it ',
    choice('long', 'what is done where it is too long', long.do, [
      ['wrap', 'runs over the edge', 'And is told as too long'],
      ['shrink', 'is set smaller'],
      ['cut', 'ends at the edge', 'And is told as too long'],
      ['on', 'goes on in another place'],
    ]),
    ...(long.do === 'shrink'
      ? [
          ', down to ',
          measure(
            'least',
            'the least size',
            Math.min(long.least, size),
            'pt',
            [6, 7, 8, 9, 10, 12, 14, 18, 24].filter((least) => least <= size),
          ),
        ]
      : []),
    ...(long.do === 'on'
      ? [
          ', in ',
          choice('to', 'where it goes on', long.to, [
            ...goOnIn(box),
            ...(goOnIn(box).some(([id]) => id === long.to)
              ? []
              : [[long.to, 'a place that is gone'] as const]),
            [NEW_PLACE, 'a new place', 'As large as this one, on the next page'],
          ]),
        ]
      : []),
    '.',
  ];
}

function shapePieces(
  { form, fill, stroke, radius }: Extract<PlacedBox, { kind: 'shape' }>,
  colours: NamedColours,
): SentencePiece[] {
  return [
    'A ',
    choice('form', 'its form', form, [
      ['rectangle', 'rectangle'],
      ['ellipse', 'circle or oval'],
    ]),
    ...(form === 'rectangle'
      ? [
          ' with corners of ',
          measure('radius', 'the radius of its corners', radius ?? 0, 'mm', [0, 1, 2, 4, 8]),
        ]
      : []),
    ', filled with ',
    colourPart('fill', 'what it is filled with', fill, colours, 'nothing'),
    ', its edge ',
    colourPart('stroke', 'the colour of its edge', stroke?.colour, colours, 'without a line'),
    ...(stroke
      ? [
          ', ',
          choice('dashes', 'how its edge is drawn', stroke.dashes ?? 'plain', DASHES),
          ', ',
          measure('weight', 'how thick its edge is', stroke.weight, 'mm', WEIGHTS),
        ]
      : []),
    '.',
  ];
}
