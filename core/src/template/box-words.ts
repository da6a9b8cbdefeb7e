import type { Column } from '../column/index.js';
import { linePlain, textPlain } from '../text/index.js';
import { fieldLabel, type Field } from './field.js';
import type { PlacedBox } from './placed.js';

/** Letters of what stands in a box that it is called by. */
const SAID_MOST = 60;

/** What a box is called: as people call it, or by the words in it with its fields' titles; blank where there are none. */
export function wordsOfBox(box: PlacedBox, fields: readonly Field[], columns: readonly Column[]): string {
  if (box.name) return box.name;
  const labels = Object.fromEntries(fields.map((field) => [field.id, fieldLabel(field, columns)]));
  const said =
    box.kind === 'text'
      ? textPlain(box.body, labels)
      : box.kind === 'comb' || box.kind === 'code'
        ? linePlain(box.line, labels)
        : box.kind === 'ownPicture'
          ? (labels[box.fieldId] ?? '')
          : box.kind === 'picture'
            ? box.alt
            : '';
  const line = said.replace(/\s+/g, ' ').trim();
  return line.length > SAID_MOST ? `${line.slice(0, SAID_MOST - 1)}…` : line;
}
