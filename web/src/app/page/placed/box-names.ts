import { wordsOfBox, type Field, type Letterhead, type PlacedBox } from '@scriptum/core/template';
import type { Column } from '@scriptum/core/column';
import type { IconName } from '../../ui/icons';
import { ORNAMENT_NAMES } from './ornament-sentence';

export const BOX_ICONS: Readonly<Record<PlacedBox['kind'], IconName>> = {
  text: 'lucideType',
  picture: 'lucideImage',
  ownPicture: 'lucideUserRound',
  line: 'lucideMinus',
  shape: 'lucideSquare',
  ornament: 'lucideFlower2',
  signOff: 'lucideSignature',
  letterhead: 'lucideStamp',
  tick: 'lucideCheck',
  comb: 'lucideColumns3',
  code: 'lucideQrCode',
};

/** What kind of thing a box is, in a word. */
export const BOX_WORDS: Readonly<Record<PlacedBox['kind'], string>> = {
  text: 'Text',
  picture: 'Picture',
  ownPicture: 'Learner’s picture',
  line: 'Line',
  shape: 'Shape',
  ornament: 'Ornament',
  signOff: 'Sign-off',
  letterhead: 'Letterhead',
  tick: 'Mark',
  comb: 'Cells',
  code: 'Code',
};

/** What a box is called: as people call it, or by what stands in it. */
export function boxName(
  box: PlacedBox,
  fields: readonly Field[],
  columns: readonly Column[],
  letterhead: Letterhead | null,
): string {
  const words = wordsOfBox(box, fields, columns);
  if (box.name) return box.name;
  switch (box.kind) {
    case 'text':
      return words || 'Text without words';
    case 'comb':
      return words || 'Cells without words';
    case 'code':
      return `${box.code === 'qr' ? 'QR code' : 'Bar code'}: ${words || 'nothing yet'}`;
    case 'picture':
      return words || 'Picture';
    case 'ownPicture':
      return words || 'Learner’s picture';
    case 'ornament': {
      const name = ORNAMENT_NAMES[box.ornament.kind];
      return name[0]!.toUpperCase() + name.slice(1);
    }
    case 'shape':
      return box.form === 'ellipse' ? 'Oval' : 'Rectangle';
    case 'signOff':
      return letterhead?.signOffs.find(({ id }) => id === box.signOffId)?.name ?? 'Sign-off';
    case 'letterhead':
      return box.show === 'crest' ? 'Crest' : box.show === 'name' ? 'Name of the school' : 'Letterhead';
    case 'tick':
      return { cross: 'Cross', check: 'Tick', dot: 'Dot', ring: 'Ring', bar: 'Stroke' }[box.mark];
    case 'line':
      return 'Line';
  }
}
