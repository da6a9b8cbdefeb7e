import {
  PAGE_SIZES,
  PAPER_FONTS,
  type FileStandard,
  type PageSetup,
  type Placed,
  sizeOfPage,
} from '@scriptum/core/template';
import type { SentenceChange, SentencePiece } from '../../ui/sentence/sentence-piece';
import { choice, colourIn, colourPart, measure, numberIn, type NamedColours } from './sentence-parts';

type Size = Pick<PageSetup, 'width' | 'height'>;

/** A line of what is said about pages; which one is told with each change. */
export interface PagesLine {
  readonly id: 'page' | 'type' | 'print' | 'file' | 'ground';
  readonly label: string;
  readonly pieces: readonly SentencePiece[];
}

const STANDARDS = [
  ['ua-1', 'the standard for accessible files, PDF/UA-1'],
  ['a-2b', 'the standard for archives, PDF/A-2b'],
  ['a-3b', 'the standard for archives, PDF/A-3b'],
] as const;

/** The name of a size, whichever way it lies; null where it has none. */
function nameOfSize({ width, height }: Size): string | null {
  const [short, long] = [Math.min(width, height), Math.max(width, height)];
  const known = Object.entries(PAGE_SIZES).find(([, one]) => one.width === short && one.height === long);
  return known?.[0] ?? null;
}

const mm = (n: number): string => String(Math.round(n * 100) / 100);

/** What is said of all pages and of the one that is looked at. */
export function pagesLines(
  template: Placed,
  page: number,
  colours: NamedColours,
  languages: readonly (readonly [string, string])[],
  pictures: readonly (readonly [asset: string, name: string])[],
  /** Whether the PDF below is a form whose fields can stay fields. */
  fillable: boolean,
): PagesLine[] {
  const { page: setup, pages, font, bleed, language, standard = 'ua-1' } = template;
  const size = sizeOfPage(template, page);
  const name = nameOfSize(size);
  const { margins } = setup;
  const one = pages[page] ?? {};
  return [
    {
      id: 'page',
      label: 'The paper',
      pieces: [
        'The paper is ',
        {
          ...choice('size', 'its size', name ?? '', [
            ...Object.entries(PAGE_SIZES).map(
              ([known, { width, height }]) => [known, known, `${mm(width)} × ${mm(height)} mm`] as const,
            ),
          ]),
          text: name ?? `${mm(size.width)} × ${mm(size.height)} mm`,
          typed: 'This size, as 200 x 90',
        },
        ', ',
        choice('lies', 'how it lies', size.width > size.height ? 'lying' : 'upright', [
          ['upright', 'upright'],
          ['lying', 'lying'],
        ]),
        ', with lines to keep to ',
        measure(
          'margin',
          'how far these lines are from the edge',
          margins.left,
          'mm',
          [0, 5, 10, 15, 20, 25],
        ),
        ' from the edge.',
      ],
    },
    {
      id: 'ground',
      label: 'What lies under everything',
      pieces: one.ground
        ? [
            'A page of a PDF lies under everything',
            ...(fillable
              ? [
                  '; the fields of its form ',
                  choice('fillable', 'what becomes of its fields', template.fillable ? 'yes' : 'no', [
                    ['no', 'become part of the page'],
                    [
                      'yes',
                      'can still be filled in',
                      'The file is no accessible one then: fields are in no order of reading',
                    ],
                  ]),
                ]
              : []),
            '.',
          ]
        : [
            pages.length > 1 ? `Page ${page + 1} has ` : 'It has ',
            colourPart(
              'colour',
              'the colour of the ground',
              one.colour,
              [['#FDFCF8', 'Cream'], ['#F4F1E8', 'Parchment'], ['#EEF4F2', 'Mist'], ...colours],
              'no colour',
            ),
            ' and ',
            choice('picture', 'the picture on the ground', one.picture?.asset ?? '', [
              ['', 'no picture'],
              ...(one.picture && !pictures.some(([asset]) => asset === one.picture!.asset)
                ? [[one.picture.asset, 'a picture that is gone'] as const]
                : []),
              ...pictures,
            ]),
            ' under everything.',
          ],
    },
    {
      id: 'type',
      label: 'The type',
      pieces: [
        'Text is set in ',
        choice(
          'family',
          'the typeface',
          font.family,
          PAPER_FONTS.map((known) => [known, known] as const),
        ),
        ' at ',
        measure('fontSize', 'the size', font.size, 'pt', [9, 10, 11, 12, 13, 14, 16, 18]),
        ', in ',
        choice('language', 'the language', language, languages),
        '.',
      ],
    },
    {
      id: 'print',
      label: 'For the print shop',
      pieces: [
        'For a print shop the ground reaches ',
        measure('bleed', 'how far the ground reaches beyond the edge', bleed?.width ?? 0, 'mm', [0, 2, 3, 5]),
        ' beyond the edge',
        ...(bleed
          ? [
              ', ',
              choice('marks', 'marks where to cut', bleed.marks ? 'yes' : 'no', [
                ['no', 'without marks where to cut'],
                ['yes', 'with marks where to cut'],
              ]),
            ]
          : []),
        '.',
      ],
    },
    {
      id: 'file',
      label: 'The file',
      pieces:
        fillable && template.fillable
          ? ['The file keeps to no standard, since its fields can be filled in.']
          : ['The file keeps to ', choice('standard', 'what the file keeps to', standard, STANDARDS), '.'],
    },
  ];
}

/** What a change of a part comes to; nothing where it makes no sense. */
export function changePages(template: Placed, page: number, { id, value }: SentenceChange): Partial<Placed> {
  const { page: setup, pages, font, bleed } = template;
  const size = sizeOfPage(template, page);
  switch (id) {
    case 'size':
      return resized(template, sizeIn(value, size.width > size.height));
    case 'lies':
      return size.width > size.height === (value === 'lying')
        ? {}
        : resized(template, { width: size.height, height: size.width });
    case 'margin': {
      const all = numberIn(value, 0, 100);
      return all === null
        ? {}
        : { page: { ...setup, margins: { top: all, right: all, bottom: all, left: all } } };
    }
    case 'colour': {
      const colour = value === '' ? undefined : (colourIn(value) ?? undefined);
      if (value !== '' && !colour) return {};
      return { pages: pages.map((one, n) => (n === page ? withColour(one, colour) : one)) };
    }
    case 'fillable':
      return { fillable: value === 'yes' ? true : undefined };
    case 'picture':
      return { pages: pages.map((one, n) => (n === page ? withPicture(one, value) : one)) };
    case 'family':
      return { font: { ...font, family: value as Placed['font']['family'] } };
    case 'fontSize': {
      const points = numberIn(value, 6, 36);
      return points === null ? {} : { font: { ...font, size: points } };
    }
    case 'language':
      return { language: value };
    case 'bleed': {
      const width = numberIn(value, 0, 20);
      if (width === null) return {};
      return { bleed: width === 0 ? undefined : { width, marks: bleed?.marks ?? true } };
    }
    case 'marks':
      return bleed ? { bleed: { ...bleed, marks: value === 'yes' } } : {};
    case 'standard':
      return { standard: value as FileStandard };
    default:
      return {};
  }
}

type Page = Placed['pages'][number];

function withColour({ colour: _, ...page }: Page, colour: string | undefined): Page {
  return colour === undefined ? page : { ...page, colour };
}

function withPicture({ picture: _, ...page }: Page, asset: string): Page {
  return asset === '' ? page : { ...page, picture: { asset } };
}

/** A size by its name, or as two numbers of millimetres; null where it is none. */
function sizeIn(value: string, lying: boolean): Size | null {
  const known = Object.entries(PAGE_SIZES).find(
    ([name]) => name.toLowerCase() === value.trim().toLowerCase(),
  )?.[1];
  if (known) return lying ? { width: known.height, height: known.width } : { ...known };
  const [width, height, ...more] = value.split(/\s*[x×*]\s*/i).map((one) => numberIn(one, 20, 2000));
  return width && height && more.length === 0 ? { width, height } : null;
}

/** All pages in another size. Boxes stay where they are. */
const resized = ({ page, pages }: Placed, size: Size | null): Partial<Placed> =>
  size === null ? {} : { page: { ...page, ...size }, pages: pages.map(({ size: _, ...one }) => one) };
