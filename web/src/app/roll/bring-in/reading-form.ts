import { Chosen, Entered, Ticked } from '../../ui/bound';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { ENCODINGS, type Reading } from '@scriptum/core/table';
import { bringingInActions, bringingInFeature } from '../state/bringing-in';

/** How the file is read: everything was found out, and everything can be corrected, with the result at once. */
@Component({
  imports: [Chosen, Entered, Ticked],
  selector: 'sc-reading-form',
  templateUrl: './reading-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReadingForm {
  private readonly store = inject(Store);
  protected readonly state = this.store.selectSignal(bringingInFeature.selectBringingInState);
  protected readonly reading = computed<Reading>(() => ({
    ...this.state().asked,
    ...this.state().view?.reading,
  }));
  protected readonly sheets = computed(() => this.state().opened?.sheets ?? []);
  protected readonly isText = computed(() => this.state().opened?.kind === 'text');
  protected readonly notes = computed(() => this.state().view?.notes ?? []);
  protected readonly encodings = ENCODINGS;
  protected readonly delimiters = [
    { id: ',', name: 'Comma' },
    { id: ';', name: 'Semicolon' },
    { id: '\t', name: 'Tab' },
    { id: '|', name: 'Bar |' },
  ];

  protected ask(asked: Partial<Reading>): void {
    this.store.dispatch(bringingInActions.ask({ asked }));
  }

  protected headerCount(count: number): void {
    this.ask({ header: { row: this.reading().header?.row ?? 1, count } });
  }
}
