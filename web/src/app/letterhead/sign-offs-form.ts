import { ApplicationRef, ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { PAPER_FONTS, SCRIPT_FONTS, type SignOff } from '@scriptum/core/template';
import { newId } from '../api/new-id';
import { Entered } from '../ui/bound';
import { Icon } from '../ui/icon';
import { NumberBox } from '../ui/number-box';
import type { ChosenPicture } from './letterhead-form';

/** Those who sign the school's papers. */
@Component({
  selector: 'sc-sign-offs-form',
  imports: [Entered, Icon, NumberBox],
  templateUrl: './sign-offs-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignOffsForm {
  readonly signOffs = input.required<readonly SignOff[]>();
  readonly changed = output<SignOff[]>();
  readonly picture = output<ChosenPicture>();
  /** The hands first. */
  protected readonly fonts = [
    ...SCRIPT_FONTS,
    ...PAPER_FONTS.filter((font) => !(SCRIPT_FONTS as readonly string[]).includes(font)),
  ];
  private readonly app = inject(ApplicationRef);
  protected readonly text = String;

  protected urlOf(asset: string): string {
    return `/api/letterhead/pictures/${asset}`;
  }

  protected add(): void {
    const fresh: SignOff = { id: newId(), name: '', role: '', picture: null, family: SCRIPT_FONTS[0] };
    this.changed.emit([...this.signOffs(), fresh]);
    // Drawn at once, so that what is typed right behind the click is all there.
    this.app.tick();
    document.getElementById(`signs-${fresh.id}`)?.focus();
  }

  protected set(id: string, part: Partial<SignOff>): void {
    this.changed.emit(this.signOffs().map((one) => (one.id === id ? { ...one, ...part } : one)));
  }

  protected setFamily(id: string, family: string): void {
    this.set(id, { family: family as SignOff['family'] });
  }

  protected remove(id: string): void {
    this.changed.emit(this.signOffs().filter((one) => one.id !== id));
  }

  protected choose(id: string, target: EventTarget | null): void {
    const box = target as HTMLInputElement;
    const file = box.files?.[0];
    box.value = '';
    if (!file) return;
    this.picture.emit({ file, place: (asset) => this.set(id, { picture: { asset, height: 14 } }) });
  }
}
