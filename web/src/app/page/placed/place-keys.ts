import { tidy, type Rect } from '@scriptum/core/placing';

/** What an arrow key does with the boxes that are picked: moves them, or sizes them. */
export interface Nudge {
  readonly what: 'move' | 'size';
  readonly x: number;
  readonly y: number;
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Reads an arrow key: a millimetre, a tenth of it with Ctrl or ⌘; with Shift it sizes. Null for other keys. */
export function nudgeOf({
  key,
  ctrlKey,
  metaKey,
  shiftKey,
  altKey,
}: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): Nudge | null {
  const arrow = ARROWS[key];
  if (!arrow || altKey) return null;
  const step = ctrlKey || metaKey ? 0.1 : 1;
  return { what: shiftKey ? 'size' : 'move', x: arrow[0] * step, y: arrow[1] * step };
}

/** A rectangle after a key. Its sides never become less than nothing. */
export const nudged = <T extends Rect>(rect: T, { what, x, y }: Nudge): T =>
  what === 'move'
    ? { ...rect, x: tidy(rect.x + x), y: tidy(rect.y + y) }
    : {
        ...rect,
        width: tidy(Math.max(0, rect.width + x)),
        height: tidy(Math.max(0, rect.height + y)),
      };
