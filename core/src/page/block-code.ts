import { CHART_COLOURS } from '../chart/index.js';
import type { ColumnWidth, Field, TableFilling } from '../template/index.js';
import { blockKey } from './keys.js';

/** Grounds of bands, from the highest to the lowest: quiet, and lighter than ink by far (WCAG 2.2, 1.4.3). */
export const BAND_TINTS = ['#DCEBE4', '#E8F0E3', '#F2F0E2', '#F6ECDF', '#F6E5DE'] as const;

/** What tables and charts are set with; stands before the code of a template that has some. */
export const BLOCKS_PRELUDE = `#let tints = (${BAND_TINTS.map((one) => `rgb("${one}")`).join(', ')})
#let lined(it) = it.split("\\n").map(line => text(line)).join(linebreak())
#let worked-bar(cell) = {
  // A picture, so that its words are read: shapes alone are told to nobody. 48 by 1000 for whatever room there is.
  let part(x, y, width, height, fill) = "<rect x='" + str(x) + "' y='" + str(y) + "' width='" + str(width) + "' height='" + str(height) + "' fill='" + fill + "'/>"
  let mean = cell.at("mean", default: none)
  let drawn = part(0, 8, 1000, 32, "${CHART_COLOURS.ground}")
  if cell.bar != none { drawn += part(0, 8, cell.bar * 1000, 32, "${CHART_COLOURS.own}") }
  if mean != none { drawn += part(calc.clamp(mean * 1000 - 8, 0, 984), 0, 16, 48, "${CHART_COLOURS.mean}") }
  image(bytes("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 1000 48' preserveAspectRatio='none'>" + drawn + "</svg>"), format: "svg", width: 100%, height: 4.8mm, fit: "stretch", alt: cell.alt)
}
#let worked-cell(look, strong, cell) = {
  let bare = type(cell) == str
  if look == "bar" { if bare { lined(cell) } else { worked-bar(cell) } } else {
    let it = if bare { lined(cell) } else { lined(cell.text) + if "pad" in cell { text(hide(cell.pad)) + text(cell.rest) } }
    let it = if look == "strong" or strong { text(weight: "bold", it) } else { it }
    if not bare and "tint" in cell { box(fill: tints.at(int(calc.round(cell.tint * (tints.len() - 1)))), inset: (x: 1.8mm), outset: (y: 0.9mm), radius: 1mm, it) } else { it }
  }
}
#let worked-table(id, titles, looks, widths) = {
  let data = values.at(id)
  let numeric = data.at("numeric", default: ())
  let strong = data.at("strong", default: ())
  let last = data.rows.len() - 1
  set par(justify: false, leading: 0.5em)
  set text(number-width: "tabular")
  block(above: 1.2em, below: 1.4em, table(
    columns: widths, column-gutter: 4mm, stroke: none, inset: (x: 0pt, y: 1.9mm),
    align: (x, y) => (if numeric.at(x, default: false) { end } else { start }) + if y == 0 { bottom } else { horizon },
    ..if titles.any(n => texts.at(n) != "") { (table.header(..titles.map(n => text(size: 0.82em, fill: rgb("${CHART_COLOURS.slate}"), texts.at(n)))), table.hline(stroke: 0.6pt + rgb("${CHART_COLOURS.ink}"))) },
    ..data.rows.enumerate().map(((n, row)) => (
      ..if n in strong and n > 0 { (table.hline(stroke: 0.6pt + rgb("${CHART_COLOURS.ink}")),) },
      ..row.enumerate().map(((x, cell)) => table.cell(breakable: false, worked-cell(looks.at(x), n in strong, cell))),
      ..if n < last { (table.hline(stroke: 0.4pt + rgb("${CHART_COLOURS.rule}")),) },
    )).flatten(),
  ))
}
#let worked-label(label) = {
  let far = 200mm
  let x = label.x * 1mm - if label.side == "middle" { far / 2 } else if label.side == "end" { far } else { 0mm }
  let side = if label.side == "middle" { center } else if label.side == "end" { right } else { left }
  place(top + left, dx: x, dy: label.y * 1mm, box(width: far, {
    set text(size: label.size * 1pt, fill: rgb(label.colour), weight: label.weight, top-edge: "baseline", bottom-edge: "baseline", number-width: "tabular")
    align(side, text(label.text))
  }))
}
#let worked-chart(id) = {
  let drawn = values.at(id)
  let (width, height) = (drawn.width * 1mm, drawn.height * 1mm)
  block(above: 1.2em, below: 1.4em, width: width, height: height, breakable: false, {
    place(top + left, image(bytes(drawn.svg), format: "svg", width: width, height: height, alt: drawn.alt))
    pdf.artifact(for label in drawn.labels { worked-label(label) })
  })
}
#let worked-picture(id, alt, width, height, fit, side) = {
  let file = "/own/" + values.at(id).picture
  align(side, layout(room => {
    let (width, height) = (calc.min(width, room.width), height)
    let high = measure(image(file, width: width)).height
    if fit == "whole" {
      if high <= height { image(file, width: width, alt: alt) } else { image(file, height: height, alt: alt) }
    } else {
      let wide = if high >= height { width } else { measure(image(file, height: height)).width }
      let spare = if high >= height { high - height } else { 0pt }
      box(width: width, height: height, clip: true, place(
        top + left, dx: (width - wide) / 2, dy: -spare * if fit == "cut below" { 12% } else { 50% },
        image(file, width: wide, alt: alt),
      ))
    }
  }))
}
`;

export const isDrawn = ({ chart }: Field): boolean => chart !== undefined;

/** The code that sets a field as a block of its own. */
export function blockCode({ table, picture }: Field, key: string, fixed: (text: string) => number): string {
  const id = JSON.stringify(blockKey(key));
  // Words stand in its place where it is blank, or where its paper was made before it was a table.
  const orText = (code: string): string => `if ${id} in values { ${code} } else { par(f("${key}")) }`;
  if (picture) {
    const { width, height, fit, side } = picture;
    return orText(`worked-picture(${id}, values.at("${key}"), ${width}mm, ${height}mm, "${fit}", ${side})`);
  }
  if (!table) return orText(`worked-chart(${id})`);
  const titles = table.columns.map(({ title }) => fixed(title));
  const looks = table.columns.map(({ look }) => JSON.stringify(look.kind));
  return orText(`worked-table(${id}, ${list(titles)}, ${list(looks)}, ${list(widthsOf(table))})`);
}

const list = (items: readonly (string | number)[]): string => `(${items.join(', ')},)`;

/** A bar has no width of its own. */
const widthsOf = ({ columns }: TableFilling): string[] =>
  columns.map(({ width, look }) => widthOf(width, look.kind === 'bar'));

function widthOf(width: ColumnWidth, bar: boolean): string {
  if (width === 'auto') return bar ? '36mm' : 'auto';
  return 'mm' in width ? `${width.mm}mm` : `${width.share}fr`;
}
