/** What a colour of a chart stands for. */
export type ChartColour = 'own' | 'mean' | 'ground' | 'others' | 'rule' | 'ink' | 'slate';

/** `#rrggbb` for each. `own`, `mean` and `others` stand out from white by 3 to 1 or more (WCAG 2.2, 1.4.11). */
export const CHART_COLOURS: Readonly<Record<ChartColour, string>> = {
  own: '#1D6B61',
  mean: '#8F5B0C',
  ground: '#EDF1EF',
  others: '#7C8E99',
  rule: '#D7DDDB',
  ink: '#22303C',
  slate: '#55636E',
};

/** A shape; all lengths in millimetres from the upper left corner. */
export type Shape =
  | {
      readonly kind: 'rect';
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
      readonly fill: ChartColour;
    }
  | {
      readonly kind: 'dot';
      readonly x: number;
      readonly y: number;
      readonly radius: number;
      readonly fill: ChartColour;
    }
  | {
      readonly kind: 'path';
      readonly d: string;
      readonly stroke: ChartColour;
      readonly width: number;
      readonly dashes?: string;
    };

/** Words in a chart. `y` is the line that they stand on. */
export interface Label {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly side: 'start' | 'middle' | 'end';
  /** Points. */
  readonly size: number;
  readonly colour: ChartColour;
  readonly strong?: boolean;
}

/** A chart, ready to be put on paper or on screen. Sizes in millimetres. */
export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
  readonly labels: readonly Label[];
  /** What the chart says, for those who cannot see it: its numbers. */
  readonly alt: string;
}

/** Millimetres in a point: 25.4 / 72. */
export const POINT = 25.4 / 72;

const WIDE = /[\u1100-\u115f\u2e80-\ua4cf\uac00-\ud7a3\uf900-\ufaff\ufe30-\ufe6f\uff00-\uff60\uffe0-\uffe6]/u;

/** About how wide a text is set, in millimetres: no font is at hand. Signs that are as wide as high count twice (UAX 11). */
export function aboutWidth(text: string, size: number): number {
  let ems = 0;
  for (const sign of text.replace(/\p{M}/gu, ''))
    ems += WIDE.test(sign)
      ? 1.02
      : /[ilI.,:;'|!()[\] ]/.test(sign)
        ? 0.3
        : /[MWmw@%]/.test(sign)
          ? 0.86
          : 0.55;
  return ems * size * POINT;
}

/** A text that is about so wide at the most; what is cut off stands behind an ellipsis. */
export function fitted(text: string, size: number, room: number): string {
  if (aboutWidth(text, size) <= room) return text;
  const signs = [...new Intl.Segmenter().segment(text)].map(({ segment }) => segment);
  while (signs.length > 1 && aboutWidth(`${signs.join('').trimEnd()}…`, size) > room) signs.pop();
  return `${signs.join('').trimEnd()}…`;
}

const n = (value: number): string => String(Math.round(value * 1000) / 1000);
const escaped = (text: string): string =>
  text.toWellFormed().replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** A drawing as SVG 1.1. Without its words where these are set beside it. */
export function drawingSvg({ width, height, shapes, labels }: Drawing, words = true): string {
  const drawn = [...shapes.map(shapeSvg), ...(words ? labels.map(labelSvg) : [])].join('');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">${drawn}</svg>`;
}

function shapeSvg(shape: Shape): string {
  switch (shape.kind) {
    case 'rect':
      return `<rect x="${n(shape.x)}" y="${n(shape.y)}" width="${n(Math.max(0, shape.width))}" height="${n(Math.max(0, shape.height))}" fill="${CHART_COLOURS[shape.fill]}"/>`;
    case 'dot':
      return `<circle cx="${n(shape.x)}" cy="${n(shape.y)}" r="${n(shape.radius)}" fill="${CHART_COLOURS[shape.fill]}"/>`;
    case 'path':
      return `<path d="${shape.d}" fill="none" stroke="${CHART_COLOURS[shape.stroke]}" stroke-width="${n(shape.width)}"${shape.dashes ? ` stroke-dasharray="${shape.dashes}"` : ''}/>`;
  }
}

const labelSvg = ({ x, y, text, side, size, colour, strong }: Label): string =>
  `<text x="${n(x)}" y="${n(y)}" font-size="${n(size * POINT)}" text-anchor="${side}" fill="${CHART_COLOURS[colour]}"${strong ? ' font-weight="600"' : ''}>${escaped(text)}</text>`;
