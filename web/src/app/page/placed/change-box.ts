import { PlacedBox, type TextBox } from '@scriptum/core/template';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import type { BoxSurroundings } from './box-sentence';
import { changeOrnament } from './ornament-sentence';
import { colourIn, numberIn } from './sentence-parts';

/** The box after a part of its sentence was changed; the same where the change makes no sense. */
export function changeBox(box: PlacedBox, change: SentenceChange, around: BoxSurroundings): PlacedBox {
  if (box.kind === 'ornament') return { ...box, ornament: changeOrnament(box.ornament, change) };
  const read = PlacedBox.safeParse(changed(box, change, around));
  return read.success ? read.data : box;
}

/** Parts that hold yes or no. */
const SWITCHES = new Set(['rule', 'words', 'capitals', 'ruled', 'rising', 'oneLine']);

function changed(box: PlacedBox, { id, value }: SentenceChange, around: BoxSurroundings): unknown {
  const typed = 'type' in box || box.kind === 'text' || box.kind === 'comb';
  if (typed && ['family', 'size', 'colour', 'spacing'].includes(id))
    return { ...box, type: withType((box as TextBox).type, id, value) };
  if (box.kind === 'text') return changedText(box, id, value, around);
  if (id === 'signOff') return { ...box, signOffId: value };
  if (SWITCHES.has(id)) return { ...box, [id]: value === 'yes' };
  if (box.kind === 'line' || (box.kind === 'shape' && ['dashes', 'weight', 'stroke'].includes(id)))
    return { ...box, stroke: withStroke(box.stroke, id, value) };
  if (id === 'fill') return { ...box, fill: value === '' ? undefined : colourIn(value) };
  if (id === 'colour') return { ...box, colour: colourIn(value) };
  if (id === 'cells' || id === 'weight' || id === 'radius')
    return { ...box, [id]: numberIn(value.replace(/[^\d.,-]/g, ''), 0, 500) };
  return { ...box, [id]: value };
}

function withType(type: TextBox['type'], id: string, value: string): unknown {
  const { [id as 'family']: _, ...rest } = type ?? {};
  if (value === '') return rest;
  if (id === 'family') return { ...rest, family: value };
  if (id === 'colour') return { ...rest, colour: colourIn(value) };
  return { ...rest, [id]: numberIn(value.replace(/[^\d.,-]/g, ''), -100, 1000) };
}

interface Stroke {
  readonly colour: string;
  readonly weight: number;
  readonly dashes?: 'dashed' | 'dotted' | undefined;
}
const FIRST_STROKE: Stroke = { colour: '#22303C', weight: 0.3 };

function withStroke(stroke: Stroke | undefined, id: string, value: string): unknown {
  const base = stroke ?? FIRST_STROKE;
  if (id === 'dashes') return { ...base, dashes: value === 'plain' ? undefined : value };
  if (id === 'weight') return { ...base, weight: numberIn(value, 0.05, 20) };
  return value === '' ? undefined : { ...base, colour: colourIn(value) };
}

function changedText(
  box: TextBox,
  id: string,
  value: string,
  { font, linesThrough }: BoxSurroundings,
): unknown {
  const { baseline, vertical: _, ...rest } = box;
  switch (id) {
    case 'vertical':
      if (value === 'lines')
        return { ...rest, baseline: baseline ?? linesThrough(box) ?? { first: 6, pitch: 8 } };
      return value === 'top' ? rest : { ...rest, vertical: value };
    case 'first':
    case 'pitch':
      return { ...box, baseline: { first: 6, ...baseline, [id]: numberIn(value, 0, 500) } };
    case 'align': {
      const { align: _was, ...bare } = box;
      return value === '' ? bare : { ...bare, align: value };
    }
    case 'oneLine':
      return { ...box, oneLine: value === 'yes' };
    case 'long': {
      const size = box.type?.size ?? font.size;
      return {
        ...box,
        long:
          value === 'shrink' ? { do: 'shrink', least: Math.max(6, Math.round(size * 0.6)) } : { do: value },
      };
    }
    case 'to':
      return { ...box, long: { do: 'on', to: value } };
    case 'least':
      return { ...box, long: { do: 'shrink', least: numberIn(value, 3, 200) } };
    default:
      return box;
  }
}
