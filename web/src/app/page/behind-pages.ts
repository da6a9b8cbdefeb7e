import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { writingFeature } from '../state/writing';

/** Whether the pages behind the letter that is written on are arranged just now, in place of its text. */
@Injectable({ providedIn: 'root' })
export class BehindPages {
  private readonly template = inject(Store).selectSignal(writingFeature.selectTemplate);
  /** The letter whose pages were opened last. */
  private readonly wanted = signal<string | null>(null);
  readonly open = computed(() => {
    const draft = this.template();
    return draft?.kind === 'letter' && draft.content.behind !== undefined && draft.id === this.wanted();
  });

  show(letterId: string | null): void {
    this.wanted.set(letterId);
  }
}
