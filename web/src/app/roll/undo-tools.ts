import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { rollActions, rollFeature } from '../state/roll';
import { Icon } from '../ui/icon';

/** Takes the last step in the roll back, or does it again; says which. */
@Component({
  selector: 'sc-undo-tools',
  imports: [Icon],
  template: `
    <button
      type="button"
      class="tool"
      [disabled]="undoWhat() === null"
      [attr.aria-label]="'Undo ' + (undoWhat() ?? '')"
      [title]="'Undo ' + (undoWhat() ?? '') + ' (Ctrl Z)'"
      (click)="undo()"
    >
      <sc-icon name="lucideUndo2" [size]="16" />
    </button>
    <button
      type="button"
      class="tool"
      [disabled]="redoWhat() === null"
      [attr.aria-label]="'Redo ' + (redoWhat() ?? '')"
      [title]="'Redo ' + (redoWhat() ?? '') + ' (Ctrl Y)'"
      (click)="redo()"
    >
      <sc-icon name="lucideRedo2" [size]="16" />
    </button>
  `,
  host: { class: 'flex shrink-0' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UndoTools {
  private readonly store = inject(Store);
  protected readonly undoWhat = this.store.selectSignal(rollFeature.selectUndoWhat);
  protected readonly redoWhat = this.store.selectSignal(rollFeature.selectRedoWhat);

  protected undo(): void {
    this.store.dispatch(rollActions.undo());
  }

  protected redo(): void {
    this.store.dispatch(rollActions.redo());
  }
}
