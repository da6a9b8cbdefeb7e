import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { PAPER_FONTS, type Letterhead } from '@scriptum/core/template';
import { Chosen, Entered, Ticked } from '../ui/bound';
import { Icon } from '../ui/icon';
import { NumberBox } from '../ui/number-box';

/** A file that somebody chose, and where its picture goes once the server has it. */
export interface ChosenPicture {
  readonly file: File;
  readonly place: (asset: string) => void;
}

const LAYOUTS = [
  ['centred', 'In the middle'],
  ['beside', 'Crest beside the name'],
  ['apart', 'Address at the other side'],
] as const;
const RULES = [
  ['none', 'None'],
  ['thin', 'One'],
  ['double', 'Two'],
] as const;

/** The head of the school's papers: crest, name, address; and its typefaces and colours. */
@Component({
  selector: 'sc-letterhead-form',
  imports: [Chosen, Entered, Icon, NumberBox, Ticked],
  templateUrl: './letterhead-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetterheadForm {
  readonly letterhead = input.required<Letterhead>();
  readonly changed = output<Partial<Letterhead>>();
  readonly picture = output<ChosenPicture>();
  protected readonly layouts = LAYOUTS;
  protected readonly rules = RULES;
  protected readonly fonts = PAPER_FONTS;
  protected readonly text = String;

  protected urlOf(asset: string): string {
    return `/api/letterhead/pictures/${asset}`;
  }

  protected setName(part: Partial<Letterhead['name']>): void {
    this.changed.emit({ name: { ...this.letterhead().name, ...part } });
  }

  protected setFamily(family: string): void {
    this.setName({ family: family as Letterhead['name']['family'] });
  }

  protected setCrest(part: Partial<NonNullable<Letterhead['crest']>>): void {
    const { crest } = this.letterhead();
    if (crest) this.changed.emit({ crest: { ...crest, ...part } });
  }

  protected chooseCrest(target: EventTarget | null): void {
    const box = target as HTMLInputElement;
    const file = box.files?.[0];
    box.value = '';
    if (!file) return;
    this.picture.emit({
      file,
      place: (asset) => {
        const { crest, name } = this.letterhead();
        this.changed.emit({
          crest: crest
            ? { ...crest, asset }
            : { asset, height: 20, alt: `Crest of ${name.text || 'the school'}` },
        });
      },
    });
  }

  protected setLines(name: 'lines' | 'foot', text: string, most: number): void {
    const lines = text
      .split('\n')
      .map((line) => line.trim().slice(0, 120))
      .filter((line) => line !== '');
    this.changed.emit({ [name]: lines.slice(0, most) });
  }

  protected setLooks(part: Partial<Record<keyof Letterhead['looks'], string>>): void {
    this.changed.emit({ looks: { ...this.letterhead().looks, ...part } as Letterhead['looks'] });
  }

  protected addColour(): void {
    const { colours } = this.letterhead();
    this.changed.emit({
      colours: [...colours, { name: `Our colour ${colours.length + 1}`, value: '#1D6B61' }],
    });
  }

  protected setColour(at: number, part: Partial<Letterhead['colours'][number]>): void {
    const colours = this.letterhead().colours.map((one, n) => (n === at ? { ...one, ...part } : one));
    this.changed.emit({ colours });
  }

  protected removeColour(at: number): void {
    this.changed.emit({ colours: this.letterhead().colours.filter((_, n) => n !== at) });
  }
}
