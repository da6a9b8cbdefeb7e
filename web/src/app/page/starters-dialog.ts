import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { starters, type Starter } from '@scriptum/core/begin';
import type { Template } from '@scriptum/core/template';
import { newId } from '../api/new-id';
import { FORM_STARTERS, type FormStarter } from './form-starters';
import { Icon } from '../ui/icon';
import { deskFeature } from '../state/desk';
import { sessionFeature } from '../state/session';
import { FirstPage } from '../desk/first-page';

/** Ready letters and certificates to begin with, each as the picked learner would have it. */
@Component({
  selector: 'sc-starters-dialog',
  imports: [FirstPage, Icon],
  templateUrl: './starters-dialog.html',
  host: { class: 'panel flex max-h-[90vh] w-[920px] max-w-[95vw] flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StartersDialog {
  protected readonly dialog = inject<DialogRef<Template | FormStarter>>(DialogRef);
  private readonly store = inject(Store);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly me = this.store.selectSignal(sessionFeature.selectMe);
  protected readonly starters = computed((): Starter[] => {
    const shapes = (this.folio()?.sources ?? []).flatMap(({ id, fileName, columns }) =>
      columns ? [{ id, name: fileName, columns }] : [],
    );
    const house = {
      school: this.me()?.staff?.school ?? 'The school',
      letterhead: this.folio()?.letterhead ?? null,
    };
    return starters(this.roll(), shapes, house, newId);
  });
  protected readonly forms = FORM_STARTERS;
  protected readonly groups = computed(() =>
    (['letter', 'placed'] as const).map((kind) => ({
      kind,
      name: kind === 'letter' ? 'Letters and reports' : 'Certificates',
      starters: this.starters().filter(({ template }) => template.kind === kind),
    })),
  );
}
