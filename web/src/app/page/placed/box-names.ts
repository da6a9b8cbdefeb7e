import { fieldLabel, type Field, type Letterhead, type PlacedBox } from '@scriptum/core/template';
import type { Column } from '@scriptum/core/column';
import { linePlain, textPlain } from '@scriptum/core/text';
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
  if (box.name) return box.name;
  const labels = Object.fromEntries(fields.map((field) => [field.id, fieldLabel(field, columns)]));
  const said = (text: string, none: string): string => {
    const line = text.replace(/\s+/g, ' ').trim();
    return line === '' ? none : line.length > 60 ? `${line.slice(0, 59)}…` : line;
  };
  switch (box.kind) {
    case 'text':
      return said(textPlain(box.body, labels), 'Text without words');
    case 'comb':
      return said(linePlain(box.line, labels), 'Cells without words');
    case 'code':
      return `${box.code === 'qr' ? 'QR code' : 'Bar code'}: ${said(linePlain(box.line, labels), 'nothing yet')}`;
    case 'picture':
      return box.alt || 'Picture';
    case 'ownPicture':
      return labels[box.fieldId] ?? 'Learner’s picture';
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
