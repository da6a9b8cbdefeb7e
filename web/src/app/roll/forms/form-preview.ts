import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { OpenedForm } from '@scriptum/core/contract';
import type { Form } from '@scriptum/core/form';
import { deskFeature } from '../../state/desk';
import { sessionFeature } from '../../state/session';

/** A form as whoever answers sees it, on the page that they get: it can be tried, and sends nothing. */
@Component({
  selector: 'sc-form-preview',
  template: `
    <iframe #frame class="h-full w-full border-0" src="/f/draft" title="The form as people see it"></iframe>
  `,
  host: { class: 'block min-h-0', '(window:message)': 'hear($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormPreview {
  readonly form = input.required<Form>();
  private readonly store = inject(Store);
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly me = this.store.selectSignal(sessionFeature.selectMe);
  private readonly ready = signal(false);
  private readonly opened = computed((): OpenedForm => {
    const letterhead = this.folio()?.letterhead;
    const crest = letterhead?.crest;
    return {
      school: {
        name: letterhead?.name.text.trim() || (this.me()?.staff?.school ?? ''),
        colour: letterhead?.name.colour ?? '#22303C',
        crest: crest ? { href: `/api/letterhead/pictures/${crest.asset}`, alt: crest.alt } : null,
      },
      state: 'open',
      about: null,
      at: null,
      version: 0,
      form: this.form(),
      ticket: '',
    };
  });

  constructor() {
    effect(() => {
      if (this.ready())
        this.frame().nativeElement.contentWindow?.postMessage({ draft: this.opened() }, location.origin);
    });
  }

  protected hear(event: MessageEvent<{ form?: string }>): void {
    if (event.source !== this.frame().nativeElement.contentWindow || event.data.form !== 'ready') return;
    this.ready.set(false);
    queueMicrotask(() => this.ready.set(true));
  }
}
