import type { Dress, PageSetup } from '../template/index.js';
import type { TypstWriter } from '../text/index.js';

/** Millimetres between the upper edge and the letterhead. */
const TOP = 12;

/** What the letterhead and sign-offs are set with; stands before the code of a letter that has some. */
export const LETTERHEAD_PRELUDE = `#let house-lines(lines, between) = lines.map(n => box(texts.at(n))).join(between)
#let house-crest(crest) = image("/assets/" + str(crest.n), height: crest.height, alt: texts.at(crest.alt))
#let house-name(name) = text(font: name.fonts, size: name.size, fill: name.colour, weight: 600, hyphenate: false, texts.at(name.n))
#let house-rule(kind, colour) = if kind == "thin" { line(length: 100%, stroke: 0.6pt + colour) } else if kind == "double" {
  stack(spacing: 1.2pt, line(length: 100%, stroke: 1.2pt + colour), line(length: 100%, stroke: 0.4pt + colour))
}
#let letterhead(layout, crest, name, lines, rule, colour) = block(width: 100%, breakable: false, above: 0pt, below: 0pt, {
  set par(justify: false, leading: 0.5em, spacing: 3.6mm)
  let address(side, between) = if lines.len() > 0 { set text(size: 8.5pt, fill: slate); align(side, par(house-lines(lines, between))) }
  let title(side) = if name != none { align(side, par(house-name(name))) }
  if layout == "centred" {
    if crest != none { align(center, house-crest(crest)); v(2.2mm, weak: true) }
    title(center)
    address(center, [ #sym.dot.c ])
  } else if layout == "beside" {
    grid(columns: (if crest == none { 0pt } else { auto }, 1fr), column-gutter: if crest == none { 0pt } else { 5mm }, align: horizon,
      if crest != none { house-crest(crest) }, { title(start); address(start, [ #sym.dot.c ]) })
  } else {
    grid(columns: (if crest == none { 0pt } else { auto }, 1.7fr, 1fr), column-gutter: 5mm, align: horizon,
      if crest != none { house-crest(crest) }, title(start), address(end, linebreak()))
  }
  if rule != "none" { v(3mm, weak: true); house-rule(rule, colour) }
})
#let crest-in(crest, width, height, side) = if crest != none { context {
  let shown(..size) = image("/assets/" + str(crest.n), alt: texts.at(crest.alt), ..size)
  let size = measure(shown(height: height))
  block(width: width, height: height, align(side + horizon, if size.width > width { shown(width: width) } else { shown(height: height) }))
} }
#let name-in(name, width, height, side) = if name != none { context {
  let size = measure(house-name(name))
  let part = calc.min(1, width / size.width, height / size.height)
  block(width: width, height: height, align(side + horizon, house-name((..name, size: name.size * part))))
} }
#let sign-off(name, role, picture, fonts) = block(breakable: false, above: 1.6em, below: 1.4em, {
  set par(spacing: 0.8em, leading: 0.5em)
  if picture != none { block(below: 1.5mm, image("/assets/" + str(picture.n), height: picture.height, alt: texts.at(picture.alt))) }
  else { par(text(font: fonts, size: 1.9em, texts.at(name))) }
  par(text(texts.at(name)) + if texts.at(role) != "" { linebreak() + text(size: 0.86em, fill: slate, texts.at(role)) })
})
`;

type Head = NonNullable<Dress['head']>;
type FontsAfter = (family: string) => string;

/** The parts of a program that set the letterhead: at the start of the text, at the head of later pages, and at the foot of the first. */
export interface LetterheadCode {
  readonly start: string;
  readonly later: string | null;
  readonly foot: string | null;
}

/** What of the letterhead can stand for itself, as code. */
export interface LetterheadParts {
  readonly whole: string;
  /** Each in a room, given as code of its width and height. */
  readonly crest: (room: string) => string;
  readonly name: (room: string) => string;
  /** The numbers of lines among the fixed texts, as code. */
  readonly numbers: (lines: readonly string[]) => string;
}

/** Writes the letterhead's parts. */
export function letterheadParts(
  { layout, crest, name, lines, rule, ruleColour }: Head,
  writer: TypstWriter,
  fontsAfter: FontsAfter,
): LetterheadParts {
  const said = name.text.trim() !== '';
  const numbers = (all: readonly string[]): string => {
    const given = all.filter((one) => one.trim() !== '').map((one) => writer.fixed(one));
    return `(${given.map((n) => `${n}, `).join('')})`;
  };
  const shownCrest = crest
    ? `(n: ${writer.picture(crest.asset)}, height: ${crest.height}mm, alt: ${writer.fixed(crest.alt)})`
    : 'none';
  const shownName = said
    ? `(n: ${writer.fixed(name.text)}, fonts: (${fontsAfter(name.family)}), size: ${name.size}pt, colour: rgb("${name.colour}"))`
    : 'none';
  const args = [`"${layout}"`, shownCrest, shownName, numbers(lines), `"${rule}"`, `rgb("${ruleColour}")`];
  return {
    whole: `letterhead(${args.join(', ')})`,
    crest: (room) => `crest-in(${shownCrest}, ${room})`,
    name: (room) => `name-in(${shownName}, ${room})`,
    numbers,
  };
}

/** Writes the letterhead, or the room for it. */
export function letterheadCode(
  head: Head,
  { top }: PageSetup['margins'],
  writer: TypstWriter,
  fontsAfter: FontsAfter,
): LetterheadCode {
  const { print, name, foot, later, room } = head;
  const said = name.text.trim() !== '';
  const small =
    later && said
      ? `context if counter(page).get().first() > 1 { text(size: 8pt, fill: rgb("${name.colour}"), font: (${fontsAfter(name.family)}), texts.at(${writer.fixed(name.text)})) }`
      : null;
  // Pre-printed paper has its own head and foot.
  if (print === 'room') return { start: `v(${Math.max(0, room - top)}mm)\n`, later: small, foot: null };
  const { whole, numbers } = letterheadParts(head, writer, fontsAfter);
  const below = foot.some((one) => one.trim() !== '')
    ? `context if counter(page).get().first() == 1 { set text(size: 7.5pt, fill: slate); set par(leading: 0.45em); align(center, par(house-lines(${numbers(foot)}, linebreak()))); v(1.5mm, weak: true) }`
    : null;
  return {
    start: `v(${-Math.max(0, top - TOP)}mm)\n${whole}\nv(7mm)\n`,
    later: small,
    foot: below,
  };
}

/** How a sign-off of the letterhead is set; null for one that is gone. */
export const signOffCode =
  ({ signOffs }: Dress, fontsAfter: FontsAfter) =>
  (signOffId: string, writer: TypstWriter): string | null => {
    const known = signOffs.find(({ id }) => id === signOffId);
    if (!known) return null;
    const { name, role, picture, family } = known;
    const shown = picture
      ? `(n: ${writer.picture(picture.asset)}, height: ${picture.height}mm, alt: ${writer.fixed(`Signature: ${name}`)})`
      : 'none';
    return `sign-off(${writer.fixed(name)}, ${writer.fixed(role)}, ${shown}, (${fontsAfter(family)}))`;
  };
