import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Explanation } from '@scriptum/core/marks';
import { deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { MarksThread } from '../thread/marks-thread';

/** How the picked learner's cell of a worked column came about, step by step. */
@Component({
  selector: 'sc-steps-panel',
  templateUrl: './steps-panel.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StepsPanel {
  readonly columnId = input.required<string>();

  private readonly store = inject(Store);
  private readonly thread = inject(MarksThread);
  private readonly pickedId = this.store.selectSignal(deskFeature.selectPickedId);
  private readonly worked = this.store.selectSignal(deskFeature.selectWorked);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly explanation = signal<Explanation | null>(null);
  protected readonly suggestions = signal<readonly { id: string; text: string }[]>([]);
  protected readonly name = signal('');
  private asked = 0;

  constructor() {
    effect(() => {
      const columnId = this.columnId();
      const entryId = this.pickedId();
      // Anything that is worked out anew may change the steps.
      this.worked();
      this.columns();
      untracked(() => void this.ask(columnId, entryId));
    });
  }

  private async ask(columnId: string, entryId: string | null): Promise<void> {
    const asked = ++this.asked;
    if (!entryId || !this.thread.ready) return;
    const desk = this.thread.desk();
    const [explanation, suggestions] = await Promise.all([
      desk.explain(columnId, entryId),
      desk.suggestions(columnId, entryId),
    ]);
    // Only the last question's answer counts.
    if (asked !== this.asked) return;
    this.explanation.set(explanation);
    this.suggestions.set(suggestions);
    this.name.set(this.names().get(entryId) ?? '');
  }

  protected write(text: string): void {
    const entryId = this.pickedId();
    if (entryId)
      this.store.dispatch(
        rollActions.change({ patch: { cells: [{ entryId, columnId: this.columnId(), text }] } }),
      );
  }
}
