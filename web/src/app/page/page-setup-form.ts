import { RouterLink } from '@angular/router';
import { Chosen, Entered, Ticked } from '../ui/bound';
import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { coloursWith } from '../editor/colours';
import { NumberBox } from '../ui/number-box';
import { PAPER_LANGUAGES } from '../desk/paper-languages';
import {
  PAPER_FONTS,
  PAPER_SIZES,
  paperSizeOf,
  SCRIPT_FONTS,
  type FileStandard,
  type Letter,
  type Letterhead,
  type PaperSize,
  type StyleLook,
  type TextStyle,
} from '@scriptum/core/template';

const SIDES = [
  ['top', 'Top'],
  ['right', 'Right'],
  ['bottom', 'Bottom'],
  ['left', 'Left'],
] as const;
type Side = (typeof SIDES)[number][0];

const STYLES: readonly (readonly [TextStyle, string])[] = [
  ['title', 'Title'],
  ['h1', 'Heading 1'],
  ['h2', 'Heading 2'],
  ['h3', 'Heading 3'],
  ['small', 'Small print'],
  ['quotation', 'Quotation'],
  ['signature', 'Signature'],
];

/** Paper size, margins and type of a letter. */
@Component({
  selector: 'sc-page-setup',
  imports: [Chosen, Entered, NumberBox, RouterLink, Ticked],
  templateUrl: './page-setup-form.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PageSetupForm {
  readonly letter = input.required<Letter>();
  readonly changed = output<Partial<Letter>>();
  protected readonly sides = SIDES;
  protected readonly fonts = PAPER_FONTS;
  protected readonly scripts = SCRIPT_FONTS;
  /** The school's, where it has one. */
  readonly letterhead = input<Letterhead | null>(null);
  protected readonly colours = computed(() => coloursWith(this.letterhead()));
  protected readonly prints = [
    ['none', 'None'],
    ['printed', 'The school’s, printed'],
    ['room', 'Room for it, on pre-printed paper'],
  ] as const;
  protected readonly house = computed(
    () => this.letter().letterhead ?? ({ print: 'none', looks: false } as const),
  );

  protected readonly standards = [
    ['ua-1', 'Accessible, PDF/UA-1'],
    ['a-2b', 'For the archive, PDF/A-2b'],
    ['a-3b', 'For the archive, PDF/A-3b'],
  ] as const;
  protected readonly standard = computed((): FileStandard => this.letter().standard ?? 'ua-1');
  protected readonly size = computed(() => paperSizeOf(this.letter().page));

  protected setSize(size: PaperSize): void {
    this.changed.emit({ page: { ...this.letter().page, ...PAPER_SIZES[size] } });
  }

  protected readonly text = String;

  protected setMargin(side: Side, value: number): void {
    const { page } = this.letter();
    this.changed.emit({ page: { ...page, margins: { ...page.margins, [side]: value } } });
  }

  protected readonly columns = [
    [1, 'One column'],
    [2, 'Two columns'],
    [3, 'Three columns'],
  ] as const;

  protected setColumns(text: string): void {
    const { columns: _, ...page } = this.letter().page;
    const columns = Number(text);
    this.changed.emit({ page: columns > 1 ? { ...page, columns } : page });
  }

  protected setFamily(family: string): void {
    this.changed.emit({ font: { ...this.letter().font, family: family as Letter['font']['family'] } });
  }

  protected setHouse(part: Partial<NonNullable<Letter['letterhead']>>): void {
    const letterhead = { ...this.house(), ...part };
    this.changed.emit({
      letterhead: letterhead.print === 'none' && !letterhead.looks ? undefined : letterhead,
    });
  }

  protected setHeadings(part: { family?: string; colour?: string }): void {
    const { family = '', colour = '' } = { ...this.letter().headings, ...part };
    const headings = {
      ...(family ? { family: family as Letter['font']['family'] } : {}),
      ...(colour ? { colour } : {}),
    };
    this.changed.emit({ headings: Object.keys(headings).length > 0 ? headings : undefined });
  }

  protected readonly styles = STYLES;
  /** The kind of text whose look is shown. */
  protected readonly style = signal<TextStyle>('title');
  protected readonly styleName = computed(() => STYLES.find(([name]) => name === this.style())![1]);
  protected readonly styleLook = computed((): StyleLook => this.letter().styles?.[this.style()] ?? {});

  protected setStyle(part: StyleLook): void {
    const { size, colour } = { ...this.styleLook(), ...part };
    const look = { ...(size === undefined ? {} : { size }), ...(colour === undefined ? {} : { colour }) };
    const { [this.style()]: _, ...others } = this.letter().styles ?? {};
    const styles = Object.keys(look).length > 0 ? { ...others, [this.style()]: look } : others;
    this.changed.emit({ styles: Object.keys(styles).length > 0 ? styles : undefined });
  }

  protected setSignature(family: string): void {
    this.changed.emit({ signature: family as Letter['font']['family'] });
  }

  protected setFontSize(size: number): void {
    this.changed.emit({ font: { ...this.letter().font, size } });
  }

  protected setLanguage(language: string): void {
    this.changed.emit({ language });
  }

  protected readonly languages = PAPER_LANGUAGES;
}
