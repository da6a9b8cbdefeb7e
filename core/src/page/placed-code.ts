import { ornamentSvg } from '../ornament/index.js';
import {
  sizeOfPage,
  type BoxOf,
  type BoxType,
  type DressedTemplate,
  type Placed,
  type PlacedBox,
} from '../template/index.js';
import type { TypstWriter } from '../text/index.js';
import { isInField } from './field-values.js';
import { chainsOf } from './going-on.js';
import { boxKey, fieldKey, partKey } from './keys.js';
import { letterheadParts } from './letterhead-code.js';

/** Millimetres beyond the bleed that marks where to cut take. */
const MARKS = 7;
/** Characters of all ornaments of a template: what is more is left out, since it is drawn while others wait. */
const DRAWN_MOST = 4_000_000;
/** Room between lines and paragraphs of a box, in hundredths of the size. */
const LEADING = 55;

/**
 * How what stands in a box fits it: as it is, set smaller, going on in another box, longer than the box even so, or nothing is
 * there. A code may have no sign for a letter.
 */
export const FIT_STATES = ['fits', 'shrinks', 'goes-on', 'long', 'blank', 'letters', 'too-long'] as const;
export type FitState = (typeof FIT_STATES)[number];

/** What boxes are set with; stands before the code of a placed template. */
export const PLACED_PRELUDE = `#let proof = "marks" in sys.inputs
#let put(x, y, width, height, turn, it) = place(top + left, dx: x, dy: y, if turn == 0deg { it } else { rotate(turn, origin: center + horizon, box(width: width, height: height, it)) })
#let in-field(key, it) = if proof or values.at(key + "-set", default: false) { it } else { hide(it) }
#let told(n, state, size, used) = [#metadata((box: n, state: state, size: size / 1pt, used: used / 1mm))<fit>]
#let text-box(n, width, height, size, least, one-line, side, vertical, first, cut, words, plain, set-it) = context {
  let slack = 0.01pt
  let floor = calc.min(1, least / size)
  let high(scale) = measure(block(width: width, set-it(scale))).height
  // What stands on one line grows with its size, and so does the longest word of several lines: measured once.
  let whole = if one-line { measure(set-it(1)) } else { none }
  let wide = if one-line { whole.width } else { words.fold(0pt, (most, word) => if word.len() * size * 0.9 < width { most } else { calc.max(most, measure(plain(1, word)).width) }) }
  let tall = if one-line { whole.height } else { high(1) }
  let most = if wide > width + slack { width / wide } else { 1 }
  let (scale, used) = if one-line or tall <= height + slack and most == 1 {
    let scale = calc.max(floor, calc.min(most, if tall > height + slack { height / tall } else { 1 }))
    (scale, if one-line { tall * scale } else { tall })
  } else if floor == 1 { (1, tall) } else {
    // Lines become fewer as they become smaller, so that the height goes with the square of the size, about. From there the
    // largest size that fits is closed in on.
    let (low, top) = (floor, calc.max(floor, most))
    let (known, guess) = (none, calc.clamp(calc.sqrt(height / tall), low, top))
    for step in range(5) {
      let now = high(guess)
      if now <= height + slack { (low, known) = (guess, now) } else { top = guess }
      if low >= top or top - low < 0.012 { break }
      guess = if step == 0 and known != none { calc.min(top, low * 1.08) } else if step == 0 { calc.max(low, top * 0.92) } else { (low + top) / 2 }
    }
    (low, if known == none { high(low) } else { known })
  }
  let fits = used <= height + slack and wide * scale <= width + slack
  told(n, if words.len() == 0 { "blank" } else if not fits { "long" } else if scale < 1 { "shrinks" } else { "fits" }, size * scale, used)
  let over = if one-line { wide * scale - width } else { 0pt }
  let it = set-it(scale)
  // A line that is kept whole needs the room that it takes, also where that is more than there is.
  let it = if over > -slack and one-line { move(dx: if side == center { -over / 2 } else if side == right { -over } else { 0pt }, block(width: width + over + slack, it)) } else { it }
  block(width: width, height: height, clip: cut, if first == none { align(vertical, it) } else { it })
}
#let picture-box(n, width, height, fit, alt) = {
  let shown = image("/assets/" + str(n), width: width, height: height, fit: if fit == "whole" { "contain" } else { "cover" }, ..if texts.at(alt) != "" { (alt: texts.at(alt)) })
  if texts.at(alt) == "" { pdf.artifact(shown) } else { shown }
}
#let own-box(key, block-key, width, height, fit) = if block-key in values {
  image("/own/" + values.at(block-key).picture, width: width, height: height, fit: if fit == "whole" { "contain" } else { "cover" }, alt: values.at(key))
}
#let comb-box(n, key, width, height, cells, from, ruled, colour, set-as) = {
  let letters = values.at(key, default: "").clusters()
  let step = width / cells
  told(n, if letters.len() == 0 { "blank" } else if letters.len() > cells { "long" } else { "fits" }, 0pt, height)
  block(width: width, height: height, {
    if ruled { pdf.artifact({
      place(rect(width: width, height: height, stroke: 0.2mm + colour))
      for k in range(1, cells) { place(dx: step * k, line(angle: 90deg, length: height, stroke: 0.2mm + colour)) }
    }) }
    let start = if from == "right" { calc.max(0, cells - letters.len()) } else { 0 }
    for (k, letter) in letters.slice(0, calc.min(cells, letters.len())).enumerate() {
      place(top + left, dx: step * (start + k), box(width: step, height: height, align(center + horizon, set-as(text(letter)))))
    }
  })
}
#let code-box(n, key, width, height, set-as) = if key in values {
  let drawn = values.at(key)
  if "svg" in drawn {
    told(n, "fits", 0pt, height)
    let words = drawn.words
    let room = if words { 4mm } else { 0mm }
    let inner = height - room
    let shown = image(bytes(drawn.svg), format: "svg", width: width, height: inner, fit: if drawn.stretch { "stretch" } else { "contain" }, alt: drawn.text)
    block(width: width, height: height, { shown; if words { place(bottom, box(width: width, height: room, align(center + bottom, pdf.artifact(set-as(text(drawn.text)))))) } })
  } else { told(n, drawn.trouble, 0pt, height) }
} else { told(n, "blank", 0pt, 0mm) }
#let sign-box(width, height, name, role, picture, fonts, side, ruled, words, ink) = block(width: width, height: height, {
  set par(spacing: 0.35em, leading: 0.4em)
  let below = block(width: width, above: 0pt, below: 0pt, inset: (top: 2mm), align(side, { set text(size: 0.85em); par(text(texts.at(name))); if texts.at(role) != "" { par(text(size: 0.9em, fill: slate, texts.at(role))) } }))
  context {
    let taken = if words { measure(below).height + 0.6mm } else { 0mm }
    let room = calc.max(4mm, height - taken)
    let signed = if picture != none { image("/assets/" + str(picture.n), height: calc.min(picture.height, room), alt: texts.at(picture.alt)) }
      else { let one(k) = text(font: fonts, size: 1.9em * k, top-edge: "ascender", bottom-edge: "descender", texts.at(name)); let size = measure(one(1)); one(calc.min(1, room / size.height, width / size.width)) }
    place(top + left, box(width: width, height: room, align(side + bottom, signed)))
    if ruled { place(top + left, dy: room + 0.6mm, pdf.artifact(line(length: width, stroke: 0.25mm + ink))) }
    if words { place(top + left, dy: room + 0.6mm, below) }
  }
})
#let cut-marks(width, height, bleed, room) = {
  let (near, far) = (bleed + 1mm, bleed + 6mm)
  let stroke = 0.09mm + black
  for x in (room, width - room) {
    place(dx: x, dy: room - far, line(angle: 90deg, length: far - near, stroke: stroke))
    place(dx: x, dy: height - room + near, line(angle: 90deg, length: far - near, stroke: stroke))
  }
  for y in (room, height - room) {
    place(dx: room - far, dy: y, line(length: far - near, stroke: stroke))
    place(dx: width - room + near, dy: y, line(length: far - near, stroke: stroke))
  }
}
#let placed-page(width, height, bleed, marks, ground, shown, under, it) = {
  // What is cut off is not shown on screen.
  let bleed = if proof { 0mm } else { bleed }
  let room = if proof { 0mm } else if marks { bleed + ${MARKS}mm } else { bleed }
  page(width: width + 2 * room, height: height + 2 * room, margin: 0mm, columns: 1, header: none, footer: none, {
    let (w, h) = (width + 2 * bleed, height + 2 * bleed)
    if ground != none { place(top + left, dx: room - bleed, dy: room - bleed, pdf.artifact(rect(width: w, height: h, fill: ground))) }
    if shown != none { place(top + left, dx: room - bleed, dy: room - bleed, pdf.artifact(image("/assets/" + str(shown), width: w, height: h, fit: "cover"))) }
    // In the file it is put under the page afterwards: the engine takes no PDF into an accessible one.
    if under != none and proof { place(top + left, image("/assets/" + str(under.n), format: "pdf", page: under.page, width: under.width)) }
    place(top + left, dx: room, dy: room, box(width: width, height: height, it))
    if marks and not proof { pdf.artifact(cut-marks(width + 2 * room, height + 2 * room, bleed, room)) }
  })
}
`;

/** How far the page that is set reaches beyond the paper, and beyond the bleed, in millimetres. */
export function beyondEdge({ bleed }: Pick<Placed, 'bleed'>): {
  readonly bleed: number;
  readonly all: number;
} {
  if (!bleed) return { bleed: 0, all: 0 };
  return { bleed: bleed.width, all: bleed.width + (bleed.marks ? MARKS : 0) };
}

/** What the code of boxes needs besides the template. */
interface BoxWriting {
  readonly writer: TypstWriter;
  readonly fontsAfter: (family: string) => string;
  /** Pictures that were drawn for this template, as SVG; they are assets called by `drawingName`. */
  readonly drawings: string[];
}

/** What an asset is called that is one of the program's own drawings. */
export const drawingName = (n: number): string => `drawing ${n}`;

/** Each page with its boxes, in the order in which they are read. */
export function placedPages(template: DressedTemplate & Placed, writing: BoxWriting): string {
  const parts = new Map((template.parts ?? []).map(({ id }, n) => [id, partKey(n)]));
  const standing = ({ part }: PlacedBox): string | undefined => (part ? parts.get(part) : undefined);
  const chains = chainsOf(template);
  const rooms = chains.map((chain, n) => {
    const each = chain.map((at) => {
      const box = template.boxes[at] as BoxOf<'text'>;
      return roomCode(box, at, standing(box), template, writing);
    });
    return `let chain-${n} = shared-out((${each.join(', ')},))\n`;
  });
  const shares = new Map(
    chains.flatMap((chain, n) => chain.map((at, k) => [at, { chain: n, at: k }] as const)),
  );
  const pages = template.pages
    .map((page, at) => {
      const { width, height } = sizeOfPage(template, at);
      const boxes = template.boxes.flatMap((box, n) => {
        if (box.page !== at) return [];
        const code = boxCode(box, n, template, writing, shares.get(n));
        const key = standing(box);
        return code === null ? [] : [key === undefined ? code : `if stands("${key}") { ${code} }`];
      });
      const { bleed } = template;
      // The paper of a form is its own ground: a colour over it would hide it, in the file alone.
      const shown = page.picture && !page.ground ? writing.writer.picture(page.picture.asset) : 'none';
      const ground = page.colour && !page.ground ? `rgb("${page.colour}")` : 'none';
      const under = page.ground
        ? `(n: ${writing.writer.picture(page.ground.asset)}, page: ${page.ground.page + 1}, width: auto)`
        : 'none';
      return `placed-page(${width}mm, ${height}mm, ${bleed?.width ?? 0}mm, ${bleed?.marks ?? false}, ${ground}, ${shown}, ${under}, {\n${boxes.join('\n')}\n})`;
    })
    .join('\n');
  // Shared out once for all boxes: what is measured needs to know where it stands.
  return rooms.length > 0 ? `context {\n${rooms.join('')}${pages}\n}` : pages;
}

/** Where a box stands among those that a text goes on in. */
interface Share {
  readonly chain: number;
  readonly at: number;
}

function boxCode(
  box: PlacedBox,
  n: number,
  template: DressedTemplate & Placed,
  writing: BoxWriting,
  share?: Share,
): string | null {
  const inner =
    share && box.kind === 'text' ? shareCode(box, n, share, template) : innerCode(box, n, template, writing);
  if (inner === null) return null;
  const { x, y, width, height, turn = 0 } = box;
  const put = `put(${x}mm, ${y}mm, ${width}mm, ${height}mm, ${turn}deg, ${inner})`;
  return isInField(template, box) ? `in-field("${boxKey(n)}", ${put})` : put;
}

function innerCode(
  box: PlacedBox,
  n: number,
  template: DressedTemplate & Placed,
  { writer, fontsAfter, drawings }: BoxWriting,
): string | null {
  const room = `${box.width}mm, ${box.height}mm`;
  const drawn = (svg: string, alt: string): string => {
    drawings.push(svg);
    const asset = writer.picture(drawingName(drawings.length - 1));
    return `picture-box(${asset}, ${room}, "whole", ${writer.fixed(alt)})`;
  };
  const looks = (type: BoxType | undefined): string => typeLooks(type, template, fontsAfter);
  switch (box.kind) {
    case 'text':
      return textBox(box, n, template, writer, looks(box.type));
    case 'picture':
      return `picture-box(${writer.picture(box.asset)}, ${room}, "${box.fit}", ${writer.fixed(box.alt)})`;
    case 'ownPicture': {
      const place = template.fields.findIndex(({ id }) => id === box.fieldId);
      const key = fieldKey(place);
      return place < 0 ? null : `own-box("${key}", "${key}-block", ${room}, "${box.fit}")`;
    }
    case 'line': {
      const [from, to] = box.rising ? [box.height, 0] : [0, box.height];
      return `pdf.artifact(line(start: (0mm, ${from}mm), end: (${box.width}mm, ${to}mm), stroke: ${strokeCode(box.stroke)}))`;
    }
    case 'shape': {
      const options = [
        `width: ${box.width}mm`,
        `height: ${box.height}mm`,
        `stroke: ${box.stroke ? strokeCode(box.stroke) : 'none'}`,
        ...(box.fill ? [`fill: rgb("${box.fill}")`] : []),
        ...(box.radius && box.form === 'rectangle' ? [`radius: ${box.radius}mm`] : []),
      ];
      return `pdf.artifact(${box.form === 'ellipse' ? 'ellipse' : 'rect'}(${options.join(', ')}))`;
    }
    case 'ornament':
      // Nothing can be drawn in less room than its own lines take.
      if (box.width < 1 || box.height < 1) return null;
      if (drawings.reduce((sum, { length }) => sum + length, 0) > DRAWN_MOST) return null;
      return drawn(ornamentSvg(box.ornament, box), '');
    case 'signOff':
      return signOffBox(box, template, writer, fontsAfter);
    case 'letterhead': {
      const head = template.dress?.head;
      const parts = head && letterheadParts(head, writer, fontsAfter);
      if (!parts) return null;
      return box.show === 'whole'
        ? `block(width: ${box.width}mm, height: ${box.height}mm, ${parts.whole})`
        : parts[box.show](`${room}, ${box.align ?? 'center'}`);
    }
    case 'tick':
      return drawn(tickSvg(box), box.name ?? 'Ticked');
    case 'comb':
      return `comb-box(${n}, "${boxKey(n)}", ${room}, ${box.cells}, "${box.from}", ${box.ruled ?? false}, ${colourOf(box.type)}, it => { let scale = 1; ${looks(box.type)}; it })`;
    case 'code':
      return `code-box(${n}, "${boxKey(n)}", ${room}, it => { set text(size: 8pt); it })`;
  }
}

const INK = '#22303C';
const colourOf = (type: BoxType | undefined): string => `rgb("${type?.colour ?? INK}")`;

/** Statements that set how the text of a box looks, times `scale`. */
function typeLooks(type: BoxType = {}, template: Placed, fontsAfter: (family: string) => string): string {
  const { family, size = template.font.size, colour, spacing, leading = LEADING } = type;
  const set = [
    `size: ${size}pt * scale`,
    ...(family ? [`font: (${fontsAfter(family)})`] : []),
    ...(colour ? [`fill: rgb("${colour}")`] : []),
    ...(spacing ? [`tracking: ${spacing / 1000}em`] : []),
  ];
  return `set text(${set.join(', ')}); set par(leading: ${leading / 100}em, spacing: ${leading / 100 + 0.25}em)`;
}

function textBox(
  box: BoxOf<'text'>,
  n: number,
  { font }: Placed,
  writer: TypstWriter,
  looks: string,
): string {
  const { width, height, body, type, long, oneLine, align, baseline } = box;
  const size = type?.size ?? font.size;
  const least = long?.do === 'shrink' ? Math.min(size, long.least) : size;
  return `text-box(${n}, ${width}mm, ${height}mm, ${size}pt, ${least}pt, ${oneLine ?? false}, ${align === 'center' || align === 'right' ? align : 'left'}, ${verticalOf(box)}, ${baseline ? `${baseline.first}mm` : 'none'}, ${long?.do === 'cut'}, ${wordsOf(n)}, (scale, word) => { ${looks}; text(word) }, scale => { ${looks}${placing(box)}
${writer.boxed(body)}
})`;
}

const wordsOf = (n: number): string => `values.at("${boxKey(n)}", default: ("?",))`;
const verticalOf = ({ vertical, baseline }: BoxOf<'text'>): string =>
  baseline ? 'top' : { top: 'top', middle: 'horizon', bottom: 'bottom' }[vertical ?? 'top'];

/** Statements that say where in its box text stands. */
function placing({ align, baseline }: BoxOf<'text'>): string {
  // The lines of a form are counted from baseline to baseline.
  const pitch = baseline?.pitch ? `${baseline.pitch}mm` : '1.25em';
  const onLines = baseline
    ? `; set text(top-edge: "baseline", bottom-edge: "baseline"); set par(leading: ${pitch}, spacing: ${pitch}); v(${baseline.first}mm)`
    : '';
  return `${align === 'justify' ? '; set par(justify: true)' : align ? `; set align(${align})` : ''}${onLines}`;
}

/** One of the rooms that a text goes on in. */
function roomCode(
  box: BoxOf<'text'>,
  n: number,
  part: string | undefined,
  template: Placed,
  { writer, fontsAfter }: BoxWriting,
): string {
  const looks = typeLooks(box.type, template, fontsAfter);
  return `(width: ${box.width}mm, height: ${box.height}mm, there: ${part === undefined ? 'true' : `stands("${part}")`}, own: if ${wordsOf(n)}.len() == 0 { none } else { let scale = 1
${writer.boxed(box.body)}
}, set-as: it => { let scale = 1; ${looks}${placing(box)}; it })`;
}

const shareCode = (box: BoxOf<'text'>, n: number, { chain, at }: Share, { font }: Placed): string =>
  `on-box(${n}, ${at}, ${box.type?.size ?? font.size}pt, ${verticalOf(box)}, ${at === 0 ? wordsOf(n) : '()'}, chain-${chain})`;

function signOffBox(
  { width, height, signOffId, align, rule, words = true }: BoxOf<'signOff'>,
  { dress }: DressedTemplate,
  writer: TypstWriter,
  fontsAfter: (family: string) => string,
): string {
  const known = dress?.signOffs.find(({ id }) => id === signOffId);
  if (!known) return `unmatched(${writer.fixed('Sign-off')})`;
  const { name, role, picture, family } = known;
  const shown = picture
    ? `(n: ${writer.picture(picture.asset)}, height: ${picture.height}mm, alt: ${writer.fixed(`Signature: ${name}`)})`
    : 'none';
  return `sign-box(${width}mm, ${height}mm, ${writer.fixed(name)}, ${writer.fixed(role)}, ${shown}, (${fontsAfter(family)}), ${align}, ${rule}, ${words}, rgb("${INK}"))`;
}

function strokeCode({ colour, weight, dashes }: BoxOf<'line'>['stroke']): string {
  const options = [
    `paint: rgb("${colour}")`,
    `thickness: ${weight}mm`,
    ...(dashes ? [`dash: "${dashes}"`] : []),
    ...(dashes === 'dotted' ? ['cap: "round"'] : []),
  ];
  return `(${options.join(', ')})`;
}

/** The mark of a tick, as large as its box. */
function tickSvg({ mark, colour, weight, width, height }: BoxOf<'tick'>): string {
  const [w, h] = [Math.max(0.5, width), Math.max(0.5, height)];
  const at = (x: number, y: number): string => `${(x * w).toFixed(2)} ${(y * h).toFixed(2)}`;
  const round = (share: number, look: string): string =>
    `<ellipse cx="${w / 2}" cy="${h / 2}" rx="${Math.max(0, w / 2 - share)}" ry="${Math.max(0, h / 2 - share)}" ${look}/>`;
  const lines = `fill="none" stroke="${colour}" stroke-width="${weight}" stroke-linecap="round" stroke-linejoin="round"`;
  const shapes = {
    cross: `<path ${lines} d="M${at(0.14, 0.14)}L${at(0.86, 0.86)}M${at(0.86, 0.14)}L${at(0.14, 0.86)}"/>`,
    check: `<path ${lines} d="M${at(0.12, 0.55)}L${at(0.4, 0.84)}L${at(0.9, 0.14)}"/>`,
    bar: `<path ${lines} d="M${at(0.08, 0.5)}L${at(0.92, 0.5)}"/>`,
    dot: round(Math.min(w, h) * 0.2, `fill="${colour}"`),
    ring: round(weight / 2, lines),
  };
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">${shapes[mark]}</svg>`;
}
