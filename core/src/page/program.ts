import {
  COLUMN_GAP,
  SCRIPT_FONTS,
  blankRules,
  isBlockField,
  isMatched,
  placedOf,
  type FileStandard,
  type DressedTemplate,
  type Placed,
  type Template,
} from '../template/index.js';
import { BLOCKS_PRELUDE, blockCode, isDrawn } from './block-code.js';
import { chainsOf, GOING_ON_PRELUDE } from './going-on.js';
import { fieldKey, partKey } from './keys.js';
import { beyondEdge, drawingName, PLACED_PRELUDE, placedPages } from './placed-code.js';
import { LETTERHEAD_PRELUDE, letterheadCode, signOffCode } from './letterhead-code.js';
import { TypstWriter, type TypstField } from '../text/index.js';

/**
 * A template turned into a typesetter's program, once for all its entries. `source` is Typst code that holds nothing a
 * person typed: fixed text is looked up in `texts` by number, fields in the entry's values, pictures by number in
 * `assets`. Texts and values travel as JSON in the compiler's inputs `texts` and `values`.
 */
export interface Program {
  readonly source: string;
  /** JSON of the fixed texts. */
  readonly texts: string;
  /** What the file keeps to, as far as the paper allows. */
  readonly standard: FileStandard;
  /** Whether there are charts among the values, to be drawn before it is set. */
  readonly draws: boolean;
  /** Whether it sets boxes, which tell how their texts fit. */
  readonly boxes: boolean;
  /** The pictures' asset names; number n is the file `/assets/<n>` to the program. Those in `drawings` are its own. */
  readonly assets: readonly string[];
  /** Pictures that are drawn from the template, as SVG, by the names that they have among the assets. */
  readonly drawings: Readonly<Record<string, string>>;
  /** What lies under each of a file's last pages, put there afterwards: a page of a PDF among the assets, counted from 0. */
  readonly under: readonly ({ readonly asset: number; readonly page: number } | null)[];
  /** How far its pages reach beyond the paper, in millimetres: the bleed, and all with the marks where to cut. */
  readonly beyond: { readonly bleed: number; readonly all: number };
}

/**
 * Families that follow the letter's own, for the scripts that it has no letters for. No other font is ever used: a paper
 * comes out alike on every machine.
 */
export const FALLBACK_FONTS = [
  'Noto Sans',
  'Vazirmatn',
  'Noto Sans Hebrew',
  'Noto Sans Devanagari',
  'Noto Sans Thai',
  'Noto Sans SC',
  'Noto Sans KR',
  'Noto Sans Armenian',
  'Noto Sans Bengali',
  'Noto Sans Ethiopic',
  'Noto Sans Georgian',
  'Noto Sans Gujarati',
  'Noto Sans Gurmukhi',
  'Noto Sans Kannada',
  'Noto Sans Khmer',
  'Noto Sans Lao',
  'Noto Sans Malayalam',
  'Noto Sans Mongolian',
  'Noto Sans Myanmar',
  'Noto Sans NKo',
  'Noto Sans Oriya',
  'Noto Sans Sinhala',
  'Noto Sans Syriac',
  'Noto Sans Tamil',
  'Noto Sans Telugu',
  'Noto Sans Thaana',
  'Noto Serif Tibetan',
  'Noto Sans Symbols',
  'Noto Sans Symbols 2',
  'Noto Emoji',
] as const;

const PRELUDE = `#let texts = json(bytes(sys.inputs.texts))
#let values = json(bytes(sys.inputs.values))
#let t(n) = text(texts.at(n))
#let f(id) = values.at(id, default: "").split("\\n").map(line => text(line)).join(linebreak())
#let unmatched(n) = box(stroke: 0.7pt + rgb("#A63D40"), inset: (x: 2pt), outset: (y: 2pt), text(fill: rgb("#A63D40"), texts.at(n)))
#let shown(n, width, ..alt) = image("/assets/" + str(n), width: calc.min(width, 400mm), ..alt)
#let picture(n, width, side, alt) = align(side, if texts.at(alt) == "" { pdf.artifact(shown(n, width)) } else { shown(n, width, alt: texts.at(alt)) })
#let blank = par(box(width: 0pt, height: 0.7em))
#let gone(id) = values.at(id, default: "") == ""
#let stands(id) = values.at(id, default: true)
#let filled(parts) = parts.filter(part => part != none)
#let stretches(..parts) = filled(parts.pos()).join()
#let lines(..parts) = filled(parts.pos()).join(linebreak())
#let there(set-it, it) = if it != none and it != () { set-it(it) }
#set heading(numbering: none, outlined: false)
#show heading: set block(above: 1.25em, below: 0.7em)
#let slate = rgb("#55636E")
#let look-of(name, ..base) = base.named() + style-looks.at(name, default: (:))
#let styled(name, it) = {
  if name == "title" { block(above: 1.2em, below: 1.1em, text(..look-of("title", size: 2.1em, weight: "bold", ..heading-look), it)) }
  else if name == "small" { text(..look-of("small", size: 0.82em, fill: slate), it) }
  else if name == "quotation" { pad(left: 1.2em, text(..look-of("quotation", style: "italic"), it)) }
  else { text(..look-of("signature", font: signature-fonts, size: 1.9em), it) }
}
#show link: it => underline(text(fill: rgb("#35588A"), it))
#let frame(it, breakable: true, ..look) = {
  let set-as(breakable) = block(width: 100%, above: 1.2em, below: 1.2em, breakable: breakable, ..look, it)
  // What is longer than a page cannot be kept on one: the rest of it would be lost.
  if breakable { set-as(true) } else { layout(size => set-as(measure(block(width: size.width, ..look, it)).height > size.height)) }
}
#let free-table(kind, lines, columns, ..rows) = {
  set par(justify: false, spacing: 0.65em)
  let fine = 0.5pt + rgb("#9AA8A4")
  block(above: 1.1em, below: 1.3em, kind(
    columns: columns, align: start + top,
    ..if lines == "all" { (stroke: fine, inset: (x: 2mm, y: 1.7mm)) }
      else if lines == "rows" { (stroke: (x, y) => (bottom: fine), inset: (left: 0pt, right: 4mm, y: 1.7mm)) }
      else { (column-gutter: 6mm, row-gutter: 2mm) },
    ..rows,
  ))
}
#let mark(n) = if "marks" in sys.inputs { context { let at = here().position(); [#metadata((n, at.page, at.y / 1pt))<mark>] } }
#let page-number(all) = context if all { str(counter(page).final().first()) } else { counter(page).display("1") }
#let page-line(line, left, right) = context if not line.later or counter(page).get().first() > 1 {
  set text(size: 8pt, fill: slate)
  grid(columns: (1fr, auto), column-gutter: 6mm, left, right)
}
#let headed(look, level, it) = {
  show heading: set text(..look-of("h" + str(look), size: (1.45em, 1.15em, 1em).at(look - 1), ..heading-look))
  heading(level: level, it)
}
`;

/** Turns a template into its program. */
export function typeset(template: DressedTemplate): Program {
  const { dress } = template;
  const writer = new TypstWriter(
    fieldsFor(template),
    blankRules(template.fields, template.language),
    partsFor(template),
    dress && signOffCode(dress, fontsAfter),
  );
  const placed = placedOf(template);
  // On pages with boxes it stands in a box.
  const house =
    template.kind === 'letter' && (template.letterhead?.print ?? 'none') !== 'none' && dress?.head
      ? letterheadCode(dress.head, template.page.margins, writer, fontsAfter)
      : null;
  const { width, height, margins, columns = 1 } = template.page;
  const [lang, region] = template.language.split('-');
  const fonts = fontsAfter(template.font.family);
  const title = writer.fixed(template.name);
  const blocks = template.fields.some(isBlockField);
  const drawings: string[] = [];
  const pages = placed
    ? placedPages({ ...placed, ...(dress ? { dress } : {}) }, { writer, fontsAfter, drawings })
    : '';
  const body =
    template.kind === 'letter'
      ? [writer.flow(template.body, true), ...(placed ? [behindCode(placed, pages)] : [])].join('\n')
      : pages;
  const looks = `#let heading-look = ${headingLook(template)}
#let style-looks = ${styleLooks(template)}
#let signature-fonts = (${fontsAfter(template.signature ?? SCRIPT_FONTS[0])})
`;
  const line = (name: 'head' | 'foot'): string | null => {
    const given = template[name];
    if (!given) return null;
    const [left, right] = [given.left, given.right].map((one) => writer.lineOf(one));
    // At the head of the first page stands the letterhead.
    const later = given.later || (name === 'head' && house !== null);
    return `page-line((later: ${later}), ${left}, ${right})`;
  };
  const pageLine = (place: 'header' | 'footer', ...parts: readonly (string | null | undefined)[]): string => {
    const given = parts.filter((part) => part != null);
    return given.length === 0 ? '' : `#set page(${place}: { ${given.join('; ')} })\n`;
  };
  const goingOn = placed !== null && chainsOf(placed).length > 0;
  const source = `${looks}${PRELUDE}${blocks ? BLOCKS_PRELUDE : ''}${dress ? LETTERHEAD_PRELUDE : ''}${placed ? PLACED_PRELUDE : ''}${goingOn ? GOING_ON_PRELUDE : ''}#set document(title: texts.at(${title}))
#set page(width: ${width}mm, height: ${height}mm, margin: (top: ${margins.top}mm, right: ${margins.right}mm, bottom: ${margins.bottom}mm, left: ${margins.left}mm)${columns > 1 ? `, columns: ${columns}` : ''})
${columns > 1 ? `#set columns(gutter: ${COLUMN_GAP}mm)\n` : ''}#set text(font: (${fonts}), fallback: false, size: ${template.font.size}pt, lang: "${lang}"${region ? `, region: "${region}"` : ''})
#set par(leading: 0.62em, spacing: 1.1em)
${pageLine('header', house?.later, line('head'))}${pageLine('footer', house?.foot, line('foot'))}#{
${house ? overColumns(house.start, columns) : ''}${body}
}
`;
  return {
    source,
    texts: JSON.stringify(writer.texts),
    assets: writer.assets,
    standard: template.standard ?? 'ua-1',
    draws: template.fields.some(isDrawn) || Boolean(placed?.boxes.some(({ kind }) => kind === 'code')),
    boxes: placed !== null,
    drawings: Object.fromEntries(drawings.map((svg, n) => [drawingName(n), svg])),
    under: (placed?.pages ?? []).map(({ ground }) =>
      ground ? { asset: writer.picture(ground.asset), page: ground.page } : null,
    ),
    beyond: beyondEdge(placed ?? {}),
  };
}

/** Pages with boxes behind a letter are set in their own type, as a certificate is. */
const behindCode = ({ font: { family, size } }: Placed, pages: string): string =>
  `{ set text(font: (${fontsAfter(family)}), size: ${size}pt); set par(leading: 0.62em, spacing: 1.1em)
${pages}
}`;

/** The letterhead stands over all columns. */
const overColumns = (start: string, columns: number): string =>
  columns > 1
    ? `place(top, scope: "parent", float: true, clearance: 0pt, block(width: 100%, {\n${start}}))\n`
    : start;

const fontsAfter = (first: string): string =>
  [first, ...FALLBACK_FONTS].map((family) => JSON.stringify(family)).join(', ');

/** What is set otherwise in headings and titles. */
function headingLook({ headings }: Template): string {
  const set = [
    ...(headings?.family ? [`font: (${fontsAfter(headings.family)})`] : []),
    ...(headings?.colour ? [`fill: rgb("${headings.colour}")`] : []),
  ];
  return set.length === 0 ? '(:)' : `(${set.join(', ')})`;
}

/** What is set otherwise in each kind of text. */
function styleLooks({ styles = {} }: Template): string {
  const set = Object.entries(styles).flatMap(([name, { size, colour }]) => {
    const looks = [
      ...(size === undefined ? [] : [`size: ${size}pt`]),
      ...(colour === undefined ? [] : [`fill: rgb("${colour}")`]),
    ];
    return looks.length === 0 ? [] : [`${name}: (${looks.join(', ')}), `];
  });
  return set.length === 0 ? '(:)' : `(${set.join('')})`;
}

/** A template's fields as its program knows them. */
function fieldsFor(template: Template): (fieldId: string) => TypstField {
  const places = new Map(template.fields.map((field, place) => [field.id, { field, place }]));
  return (fieldId) => {
    const known = places.get(fieldId);
    if (known && isMatched(known.field)) {
      const { field, place } = known;
      const key = fieldKey(place);
      if (field.same?.kind === 'page') return { key, code: `page-number(${field.same.all})` };
      return isBlockField(field) ? { key, block: (fixed) => blockCode(field, key, fixed) } : { key };
    }
    return { unmatched: known?.field.name ?? 'removed field' };
  };
}

/** A template's parts as its program knows them. */
function partsFor({ parts = [] }: Template): (partId: string) => string | null {
  const places = new Map(parts.map(({ id }, place) => [id, place]));
  return (partId) => {
    const place = places.get(partId);
    return place === undefined ? null : partKey(place);
  };
}
