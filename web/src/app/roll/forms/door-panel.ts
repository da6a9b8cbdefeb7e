import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { codeSvg, drawCode } from '@scriptum/core/code';
import type { Writing } from '@scriptum/core/template';
import type { DraftState } from '../../state/writing';
import { Icon } from '../../ui/icon';
import { formsActions, formsFeature } from '../state/forms';

type FormDraft = Extract<Writing, { kind: 'form' }> & DraftState;

/** Whether a form is published, and with which link; publishing what was written since. */
@Component({
  selector: 'sc-door-panel',
  imports: [DatePipe, Icon],
  templateUrl: './door-panel.html',
  host: { class: 'block border-b border-rule' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DoorPanel {
  readonly writing = input.required<FormDraft>();
  private readonly store = inject(Store);
  protected readonly state = this.store.selectSignal(formsFeature.selectFormsState);
  protected readonly copied = signal(false);
  protected readonly codeShown = signal(false);
  protected readonly door = computed(
    () => this.state().doors?.find(({ writingId }) => writingId === this.writing().id) ?? null,
  );
  /** True where something was written since it was published. */
  protected readonly isNewer = computed(() => {
    const door = this.door();
    const { version, saved } = this.writing();
    return door !== null && (version > door.version || saved !== 'saved');
  });
  protected readonly says = computed(() => {
    const door = this.door();
    if (!door) return 'Nobody can answer it yet.';
    const answers = door.answers === 1 ? '1 answer' : `${door.answers} answers`;
    return {
      open: `Open: ${answers}`,
      'not yet': `Not open yet: ${answers}`,
      over: `Its time is over: ${answers}`,
      full: `Full: ${answers}`,
      closed: `Closed: ${answers}`,
    }[door.state];
  });
  protected readonly code = computed(() => {
    const link = this.door()?.link;
    const drawn = link ? drawCode('qr', link) : null;
    return drawn && typeof drawn !== 'string'
      ? `data:image/svg+xml,${encodeURIComponent(codeSvg(drawn, '#000000'))}`
      : null;
  });
  protected readonly embed = computed(() => {
    const link = this.door()?.link;
    if (!link || !this.door()?.terms.embed) return '';
    const { origin, pathname } = new URL(link);
    return `<script src="${origin}/families/embed.js" data-form="${pathname.split('/').at(-1)}"></script>`;
  });

  protected publish(): void {
    this.store.dispatch(formsActions.publish({ id: this.writing().id }));
  }

  protected open(isOpen: boolean): void {
    this.store.dispatch(formsActions.open({ id: this.writing().id, isOpen }));
  }

  protected async copy(text: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      this.copied.set(true);
      setTimeout(() => this.copied.set(false), 2500);
    } catch {
      // The link stands beside the button, to be copied by hand.
    }
  }
}
