import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { deskFeature } from '../../state/desk';
import type { ColumnPreview } from '../thread/marks-desk';

/** Says whose marks, bands and ranks a change would change, before it is taken. */
@Component({
  selector: 'sc-draft-bar',
  template: `
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <p role="status" class="min-w-0 grow">
        <span class="font-semibold">Not taken yet.</span>
        {{ sum() }}
      </p>
      <button type="button" class="btn primary min-h-7! text-small" (click)="take.emit()">
        Take the change
      </button>
      <button type="button" class="btn min-h-7! text-small" (click)="leave.emit()">Leave it as it was</button>
    </div>
    @for (one of shown(); track one.columnId) {
      <details>
        <summary class="link w-fit">
          {{ one.title }}: {{ one.count }} {{ one.count === 1 ? 'learner' : 'learners' }}
        </summary>
        <ul
          class="max-h-40 columns-2 gap-6 overflow-y-auto py-1 pl-3"
          tabindex="0"
          [attr.aria-label]="one.title"
        >
          @for (line of one.lines; track line.entryId) {
            <li class="flex gap-2">
              <bdi class="min-w-0 grow truncate text-left">{{ names().get(line.entryId) }}</bdi>
              <span class="max-w-44 truncate text-slate">
                {{ line.before }} → {{ line.after || 'nothing' }}
              </span>
            </li>
          }
        </ul>
        @if (one.count > one.lines.length) {
          <p class="pl-3 text-slate">and {{ one.count - one.lines.length }} more</p>
        }
      </details>
    }
  `,
  host: {
    class:
      'flex max-h-[45%] shrink-0 flex-col gap-1 overflow-y-auto border-b border-rule bg-wash px-5 py-2 text-small',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DraftBar {
  readonly preview = input.required<readonly ColumnPreview[]>();
  readonly take = output();
  readonly leave = output();
  private readonly store = inject(Store);
  private readonly columns = this.store.selectSignal(deskFeature.selectColumns);
  protected readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly shown = computed(() =>
    this.preview().map((one) => ({
      ...one,
      title: this.columns().find(({ id }) => id === one.columnId)?.title ?? '',
    })),
  );
  protected readonly sum = computed(() => {
    const people = Math.max(...this.preview().map(({ count }) => count));
    const several = this.preview().length;
    return `${people === 1 ? '1 learner' : `${people} learners`} would get something else${several > 1 ? `, in ${several} columns` : ''}:`;
  });
}
