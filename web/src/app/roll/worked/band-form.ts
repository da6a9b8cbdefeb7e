import { Chosen, Ticked } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, input, output, type Signal } from '@angular/core';
import { guessScale, SCALES } from '@scriptum/core/marks';
import type { Roll } from '@scriptum/core/roll';
import { type Column, PLAIN_ROUNDING, type Band, type BandColumn } from '@scriptum/core/column';
import { newId } from '../../api/new-id';
import { Icon } from '../../ui/icon';
import { NumberBox } from '../../ui/number-box';
import { ColumnPick, OutOfPick, pointsOfKey, RoundingPick, numberText, type WorkedChange } from './fields';
import { WithinPick } from './within-pick';

/** Bands: which mark gets which letter, level or word. */
@Component({
  selector: 'sc-band-form',
  imports: [Chosen, Ticked, ColumnPick, Icon, OutOfPick, RoundingPick, WithinPick, NumberBox],
  templateUrl: './band-form.html',
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BandForm {
  /** How the column is worked out, as it is at this moment: a quick hand changes it again before the screen is drawn. */
  readonly definition = input.required<Signal<BandColumn>>();
  protected readonly worked = computed(() => this.definition()());
  readonly roll = input.required<Roll>();
  protected readonly columns = computed<readonly Column[]>(() => this.roll().columns);
  protected readonly keyPoints = computed(() => pointsOfKey(this.columns(), this.worked().of));
  readonly columnId = input.required<string>();
  readonly changed = output<WorkedChange<BandColumn>>();
  protected readonly scales = SCALES;
  protected readonly plain = PLAIN_ROUNDING;
  protected readonly lowest = computed(() => this.worked().bands.some(({ from }) => from === null));

  /** Another column is out of something else, most likely. */
  protected setOf(of: string): void {
    this.set({ of, outOf: guessScale(of, this.roll()) }, 'the column');
  }

  protected readonly text = numberText;

  protected set(change: Partial<BandColumn>, what: string, asks = false): void {
    this.changed.emit({ worked: { ...this.worked(), ...change }, what, asks });
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
      change.from !== undefined || change.share !== undefined,
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
