import { FIRST_ORNAMENTS, type OrnamentKind } from '@scriptum/core/ornament';
import type { PlacedBox } from '@scriptum/core/template';
import type { FlowText } from '@scriptum/core/text';

/** What can be put on a page, in the order of the verbs. */
export type Adding =
  | { readonly what: 'text' | 'date' | 'line' | 'shape' | 'tick' | 'comb' | 'letterhead' }
  | { readonly what: 'field'; readonly fieldId: string }
  | { readonly what: 'ornament'; readonly kind: OrnamentKind }
  | { readonly what: 'code'; readonly code: 'qr' | 'code128'; readonly fieldId?: string | undefined }
  | { readonly what: 'picture'; readonly asset: string; readonly name: string; readonly ratio?: number }
  | { readonly what: 'ownPicture'; readonly fieldId: string }
  | { readonly what: 'signOff'; readonly signOffId: string };

/** A page that a box is put on: its number, its size in millimetres, and its margins. */
export interface PageRoom {
  readonly page: number;
  readonly width: number;
  readonly height: number;
}

const INK = '#22303C';

export const paragraph = (content: readonly unknown[]): FlowText =>
  ({
    type: 'doc',
    content: [{ type: 'paragraph', content }],
  }) as FlowText;

const field = (fieldId: string) => ({ type: 'field', attrs: { fieldId } });

/** A new box in the middle of a page, as large as its kind usually is. */
export function newBox(adding: Adding, room: PageRoom, id: string): PlacedBox {
  const at = (width: number, height: number) => {
    const [w, h] = [Math.min(width, room.width), Math.min(height, room.height)];
    return {
      id,
      page: room.page,
      x: Math.round((room.width - w) * 5) / 10,
      y: Math.round((room.height - h) * 5) / 10,
      width: w,
      height: h,
    };
  };
  switch (adding.what) {
    case 'text':
      return {
        kind: 'text',
        ...at(100, 16),
        body: paragraph([{ type: 'text', text: 'Text' }]),
        align: 'center',
        long: { do: 'shrink', least: 8 },
      };
    case 'field':
      return {
        kind: 'text',
        ...at(120, 14),
        body: paragraph([field(adding.fieldId)]),
        align: 'center',
        oneLine: true,
        vertical: 'middle',
        long: { do: 'shrink', least: 8 },
      };
    case 'date':
      throw new Error('A date is a field.');
    case 'line':
      return { kind: 'line', ...at(80, 0), stroke: { colour: INK, weight: 0.3 } };
    case 'shape':
      return { kind: 'shape', ...at(60, 30), form: 'rectangle', stroke: { colour: INK, weight: 0.3 } };
    case 'tick':
      return { kind: 'tick', ...at(4, 4), mark: 'cross', colour: INK, weight: 0.5 };
    case 'comb':
      return { kind: 'comb', ...at(64, 7), line: [], cells: 8, from: 'left', capitals: true, ruled: true };
    case 'letterhead':
      return { kind: 'letterhead', ...at(120, 30), show: 'whole' };
    case 'ornament':
      return ornamentBox(adding.kind, room, at, id);
    case 'code':
      return {
        kind: 'code',
        ...(adding.code === 'qr' ? at(24, 24) : at(60, 16)),
        code: adding.code,
        line: adding.fieldId ? ([field(adding.fieldId)] as never) : [],
        colour: '#000000',
        words: adding.code === 'code128',
      };
    case 'picture': {
      const ratio = adding.ratio ?? 1;
      return {
        kind: 'picture',
        ...(ratio >= 1 ? at(50, 50 / ratio) : at(50 * ratio, 50)),
        asset: adding.asset,
        fit: 'whole',
        alt: adding.name,
      };
    }
    case 'ownPicture':
      return { kind: 'ownPicture', ...at(35, 45), fieldId: adding.fieldId, fit: 'cut' };
    case 'signOff':
      return { kind: 'signOff', ...at(65, 22), signOffId: adding.signOffId, align: 'center', rule: true };
  }
}

type At = (width: number, height: number) => Omit<Extract<PlacedBox, { kind: 'line' }>, 'kind' | 'stroke'>;

/** Borders and corner pieces go around the page, the others into its middle. */
function ornamentBox(kind: OrnamentKind, { page, width, height }: PageRoom, at: At, id: string): PlacedBox {
  const ornament = FIRST_ORNAMENTS[kind];
  const side = Math.min(width, height);
  if (kind === 'border' || kind === 'corners') {
    const edge = Math.round(side * 0.05);
    const around = { page, x: edge, y: edge, width: width - 2 * edge, height: height - 2 * edge };
    return { kind: 'ornament', id, ...around, ornament };
  }
  const sizes: Readonly<Record<Exclude<OrnamentKind, 'border' | 'corners'>, readonly [number, number]>> = {
    rosette: [side * 0.7, side * 0.7],
    waves: [width * 0.7, 10],
    seal: [36, 36],
    laurel: [60, 56],
    divider: [width * 0.4, 5],
  };
  const [w, h] = sizes[kind].map(Math.round) as [number, number];
  return { kind: 'ornament', ...at(w, h), ornament };
}

/** Things without words lie under what is there; others come last, as they are read. */
export const goesUnder = ({ kind }: PlacedBox): boolean => kind === 'ornament' || kind === 'shape';
