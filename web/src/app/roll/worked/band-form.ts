import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { SCALES } from '@scriptum/core/marks';
import type { Column } from '@scriptum/core/table';
import { PLAIN_ROUNDING, type Band, type BandColumn } from '@scriptum/core/worked';
import { newId } from '../../editor/new-id';
import { Icon } from '../../ui/icon';
import { ColumnPick, DecimalBox, RoundingPick, wholeIn, type WorkedChange } from './fields';
import { WithinPick } from './within-pick';

/** Bands: which mark gets which letter, level or word. */
@Component({
  selector: 'sc-band-form',
  imports: [ColumnPick, DecimalBox, Icon, RoundingPick, WithinPick],
  templateUrl: './band-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BandForm {
  readonly worked = input.required<BandColumn>();
  readonly columns = input.required<readonly Column[]>();
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<BandColumn>>();
  protected readonly scales = SCALES;
  protected readonly plain = PLAIN_ROUNDING;
  protected readonly lowest = computed(() => this.worked().bands.some(({ from }) => from === null));

  protected readonly wholeIn = wholeIn;

  protected set(change: Partial<BandColumn>, what: string): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what });
  }

  protected takeScale(id: string): void {
    const scale = SCALES.find((one) => one.id === id);
    if (scale)
      this.set(
        { basis: scale.basis, bands: scale.bands.map((band) => ({ ...band, id: newId() })) },
        `the scale “${scale.name}”`,
      );
  }

  protected setBand(id: string, change: Partial<Band>): void {
    this.set(
      { bands: this.worked().bands.map((band) => (band.id === id ? { ...band, ...change } : band)) },
      'a band',
    );
  }

  protected addBand(): void {
    const shares = this.worked().basis === 'shares';
    const band: Band = {
      id: newId(),
      label: 'New band',
      from: shares || !this.lowest() ? null : '0',
      ...(shares ? { share: '0' } : {}),
    };
    this.set({ bands: [...this.worked().bands, band] }, 'a new band');
  }

  protected removeBand(id: string): void {
    if (this.worked().bands.length > 1)
      this.set({ bands: this.worked().bands.filter((band) => band.id !== id) }, 'taking a band out');
  }

  protected setPassWord(at: 0 | 1, word: string): void {
    const passWords: [string, string] = [...this.worked().passWords];
    passWords[at] = word.trim().slice(0, 60);
    this.set({ passWords }, 'the words for passing');
  }
}
