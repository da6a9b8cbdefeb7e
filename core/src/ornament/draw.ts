import { border, type Room } from './borders.js';
import type { Ornament } from './ornament.js';
import { corners, divider } from './pieces.js';
import { laurel, rosette, seal, waves } from './rounds.js';
import type { Stroke } from './strokes.js';

function strokesOf(ornament: Ornament, room: Room): Stroke[] {
  switch (ornament.kind) {
    case 'border':
      return border(ornament, room);
    case 'corners':
      return corners(ornament, room);
    case 'rosette':
      return rosette(ornament, room);
    case 'waves':
      return waves(ornament, room);
    case 'seal':
      return seal(ornament, room);
    case 'laurel':
      return laurel(ornament, room);
    case 'divider':
      return divider(ornament, room);
  }
}

/**
 * An ornament as an SVG picture of exactly the size of its room, in millimetres. The same ornament gives the same text.
 *
 * Nothing of it leaves the room but half the thickness of a line.
 */
export function ornamentSvg(ornament: Ornament, room: Room): string {
  const { colour, second = colour, weight, strength } = ornament;
  const groups = new Map<string, string[]>();
  for (const stroke of strokesOf(ornament, room)) {
    const paint = stroke.colour === 'first' ? colour : second;
    const look = stroke.filled
      ? `fill="${paint}"`
      : `fill="none" stroke="${paint}" stroke-width="${Math.round(stroke.weight * weight * 1000) / 1000}"`;
    // Shapes that look alike are one path: fewer bytes, and one step for the printer.
    groups.set(look, [...(groups.get(look) ?? []), stroke.d]);
  }
  const [width, height] = [room.width, room.height].map((mm) => Math.round(mm * 100) / 100);
  const paths = [...groups].map(([look, ds]) => `<path ${look} d="${ds.join('')}"/>`).join('');
  const faded = strength < 1 ? ` opacity="${strength}"` : '';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}"><g stroke-linejoin="round" stroke-linecap="round"${faded}>${paths}</g></svg>`;
}
