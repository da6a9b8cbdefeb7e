import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Icon } from '../ui/icon';
import { Exceptions } from './exceptions';

/** The learners for whom something is another one in the letter, and the way to make one more. */
@Component({
  selector: 'sc-exception-margin',
  imports: [Icon],
  template: `
    @if (exceptions.takenBack() || exceptions.mayMake() || exceptions.list().length > 0) {
      <section class="mb-3 border-b border-rule pb-1" aria-label="Exceptions">
        @if (exceptions.takenBack(); as taken) {
          <p class="mb-2 text-small" role="status">
            <bdi>{{ taken.name || 'The learner' }}</bdi>
            gets what everybody gets.
            <button
              type="button"
              class="link min-h-6"
              [disabled]="exceptions.busy()"
              (click)="exceptions.haveBack()"
            >
              Have the exception back
            </button>
          </p>
        }
        @if (exceptions.mayMake()) {
          <button
            type="button"
            class="btn mb-2 w-full min-w-0 justify-start gap-2"
            [disabled]="exceptions.busy()"
            (click)="exceptions.make()"
          >
            <sc-icon name="lucideUserRound" [size]="14" class="shrink-0" />
            <span class="min-w-0 truncate">
              Change it only for
              <bdi>{{ exceptions.learner() || 'this learner' }}</bdi>
            </span>
          </button>
        }
        @if (exceptions.list(); as list) {
          @if (list.length > 0) {
            <details class="mb-2" [open]="list.length < 4">
              <summary class="label">
                {{
                  list.length === 1
                    ? '1 exception in this letter'
                    : list.length + ' exceptions in this letter'
                }}
              </summary>
              <ul class="mt-1">
                @for (one of list; track one.id) {
                  <li class="flex items-center justify-between gap-2">
                    @if (one.name !== null) {
                      <button
                        type="button"
                        class="link min-h-6 min-w-0 truncate text-left text-small"
                        [attr.aria-current]="one.id === exceptions.here()?.id ? 'true' : null"
                        (click)="exceptions.pick(one.entryId)"
                      >
                        <bdi>{{ one.name || 'A learner without a name' }}</bdi>
                      </button>
                    } @else {
                      <span class="min-w-0 text-small text-slate">Not on the roll any more</span>
                      <button
                        type="button"
                        class="link min-h-6 shrink-0 text-small"
                        [disabled]="exceptions.busy()"
                        (click)="exceptions.takeBack(one.id, '')"
                      >
                        Take it back
                      </button>
                    }
                  </li>
                }
              </ul>
            </details>
          }
        }
      </section>
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ExceptionMargin {
  protected readonly exceptions = inject(Exceptions);
}
