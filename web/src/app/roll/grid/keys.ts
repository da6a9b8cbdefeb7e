/** Farther than any table goes. */
const FAR = 1e9;

/**
 * How many rows and columns a key moves the active cell by; null for a key that does not move it. With the command key
 * an arrow goes to the end, and Home and End to the corners.
 *
 * @param page rows that one page has.
 */
export function stepOf(event: KeyboardEvent, page: number): [rows: number, columns: number] | null {
  if (event.altKey) return null;
  const command = event.ctrlKey || event.metaKey;
  const one = command ? FAR : 1;
  switch (event.key) {
    case 'ArrowDown':
      return [one, 0];
    case 'ArrowUp':
      return [-one, 0];
    case 'ArrowRight':
      return [0, one];
    case 'ArrowLeft':
      return [0, -one];
    case 'PageDown':
      return [page, 0];
    case 'PageUp':
      return [-page, 0];
    case 'Home':
      return [command ? -FAR : 0, -FAR];
    case 'End':
      return [command ? FAR : 0, FAR];
    default:
      return null;
  }
}
