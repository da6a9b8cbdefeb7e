import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  linkedSignal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { deskFeature } from '../../state/desk';
import { registerFeature } from '../../state/register';
import { rollActions } from '../../state/roll';
import { writingFeature } from '../../state/writing';
import { Icon } from '../../ui/icon';
import { AnswerPanel } from './answer-panel';
import { ReasonForm } from '../../ui/reason-form';

/** The picked learner: leaving out and taking back, and what the register has of them. */
@Component({
  selector: 'sc-entry-panel',
  imports: [AnswerPanel, Icon, ReasonForm],
  templateUrl: './entry-panel.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class EntryPanel {
  private readonly store = inject(Store);
  protected readonly entry = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly papers = this.store.selectSignal(registerFeature.selectPresent);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly injector = inject(Injector);
  private readonly way = viewChild<ElementRef<HTMLElement>>('way');
  private readonly forms = this.store.selectSignal(writingFeature.selectForms);
  /** True where learners of the roll answer a form in their own rows. */
  protected readonly hasOwnForms = computed(() =>
    this.forms().some(({ content }) => content.terms.who === 'roll'),
  );
  protected readonly name = computed(() => this.names().get(this.entry()?.id ?? '') ?? '');
  protected readonly paper = computed(() =>
    this.papers().find(({ entryId }) => entryId === this.entry()?.id),
  );
  /** True while the reason is being given. */
  protected readonly asking = linkedSignal({
    source: computed(() => this.entry()?.id),
    computation: () => false,
  });
  protected readonly tables = computed(() => {
    const tables = this.entry()?.tables ?? {};
    return (this.folio()?.sources ?? [])
      .filter(({ id }) => tables[id])
      .map((source) => ({
        id: source.id,
        name: source.fileName,
        titles: (source.columns ?? []).map(({ title }) => title),
        rows: tables[source.id]!,
      }));
  });

  protected leaveOut(reason: string): void {
    this.setReason(reason, `leaving out ${this.name()}`);
  }

  protected takeBack(): void {
    this.setReason(null, `taking ${this.name()} back`);
  }

  private setReason(reason: string | null, what: string): void {
    const entry = this.entry();
    if (!entry) return;
    this.store.dispatch(rollActions.change({ patch: { leftOut: [{ entryId: entry.id, reason }] }, what }));
    this.cancel();
  }

  /** Ends the asking; the button that stands there afterwards is the one to go on from. */
  protected cancel(): void {
    this.asking.set(false);
    afterNextRender(() => this.way()?.nativeElement.focus(), { injector: this.injector });
  }
}
