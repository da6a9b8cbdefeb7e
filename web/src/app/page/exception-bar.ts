import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Icon } from '../ui/icon';
import { Exceptions } from './exceptions';

/** Says above the page whether one learner's own paper is changed there, or everybody's. */
@Component({
  selector: 'sc-exception-bar',
  imports: [Icon],
  template: `
    @if (exceptions.here(); as here) {
      <div
        class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b-2 px-3 py-1.5 text-small"
        [class]="exceptions.isShown() ? 'border-ochre bg-leaf' : 'border-rule bg-leaf'"
        role="region"
        aria-label="Exception"
      >
        <sc-icon
          [name]="exceptions.isShown() ? 'lucideUserRound' : 'lucideUsers'"
          [size]="16"
          class="shrink-0 text-ochre"
        />
        <p class="min-w-0 grow basis-52" role="status">
          @if (!exceptions.isShown()) {
            You change the letter of everybody.
            <bdi class="font-semibold">{{ exceptions.learner() }}</bdi>
            has an exception.
          } @else if (exceptions.isTouched()) {
            Only for
            <bdi class="font-semibold">{{ exceptions.learner() }}</bdi>
            – and what stands here was changed for everybody since. Is it still right?
          } @else {
            Only for
            <bdi class="font-semibold">{{ exceptions.learner() }}</bdi>
            – what you change here changes nobody else’s paper.
          }
        </p>
        <span class="flex flex-wrap gap-2">
          @if (exceptions.isShown()) {
            @if (exceptions.isTouched()) {
              <button type="button" class="btn" (click)="exceptions.keep()">It is right</button>
            }
            <button type="button" class="btn" (click)="exceptions.showCommon(true)">
              Change everybody’s
            </button>
            <button
              type="button"
              class="btn"
              [disabled]="exceptions.busy()"
              (click)="exceptions.takeBack(here.id, exceptions.learner())"
            >
              Take it back
            </button>
          } @else {
            <button type="button" class="btn" (click)="exceptions.showCommon(false)">
              Back to the exception
            </button>
          }
        </span>
      </div>
    }
  `,
  host: { class: 'contents' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ExceptionBar {
  protected readonly exceptions = inject(Exceptions);
}
