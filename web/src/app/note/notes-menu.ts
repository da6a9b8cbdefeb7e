import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { noteName } from '@scriptum/core/template';
import { writingFeature } from '../state/writing';
import { PanelButton } from '../ui/panel-button';
import { NotesPanel } from './notes-panel';

/** Which cover note of the folio is written, and the way to the others. */
@Component({
  selector: 'sc-notes-menu',
  imports: [NotesPanel, PanelButton],
  template: `
    <sc-panel-button [label]="label()" [chosen]="name()" [aside]="place()">
      <ng-template let-close="close">
        <sc-notes-panel (left)="close()" />
      </ng-template>
    </sc-panel-button>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NotesMenu {
  private readonly store = inject(Store);
  private readonly notes = this.store.selectSignal(writingFeature.selectNotes);
  private readonly note = this.store.selectSignal(writingFeature.selectNote);
  protected readonly name = computed(() => {
    const note = this.note();
    return note ? noteName(note) : '';
  });
  protected readonly place = computed(() => {
    const all = this.notes();
    return all.length < 2 ? '' : `${all.findIndex(({ id }) => id === this.note()?.id) + 1} of ${all.length}`;
  });
  protected readonly label = computed(() =>
    `Cover notes of this folio: ${this.name()} ${this.place()}`.trim(),
  );
}
