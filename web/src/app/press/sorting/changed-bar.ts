import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Sorted, SortingChange } from '@scriptum/core/sorting';
import type { TemplateWriting } from '@scriptum/core/template';
import { deskActions, deskFeature } from '../../state/desk';

/** Says whose papers a change of the rules would change, before it is taken. */
@Component({
  selector: 'sc-changed-bar',
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
    <ul class="max-h-32 overflow-y-auto" tabindex="0" aria-label="Who gets something else">
      @for (line of shown(); track line.id) {
        <li class="flex items-center gap-2">
          <button type="button" class="link min-h-6 w-48 shrink-0 truncate text-left" (click)="pick(line.id)">
            <bdi class="block truncate text-left">{{ line.name }}</bdi>
          </button>
          <span class="min-w-0">
            <span class="text-slate">{{ line.before }} →</span>
            {{ line.after }}
          </span>
        </li>
      }
    </ul>
    @if (changes().length > shown().length) {
      <button type="button" class="link min-h-6 self-start" (click)="showAll()">
        and {{ changes().length - shown().length }} more: show them in the strip
      </button>
    }
  `,
  host: {
    class: 'flex shrink-0 flex-col gap-1 border-b border-rule bg-wash px-5 py-2 text-small',
    role: 'region',
    'aria-label': 'What the change would change',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChangedBar {
  readonly changes = input.required<readonly SortingChange<TemplateWriting>[]>();
  readonly take = output();
  readonly leave = output();
  private readonly store = inject(Store);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);

  protected readonly shown = computed(() =>
    this.changes()
      .slice(0, 30)
      .map(({ entry, before, after }) => ({
        id: entry.id,
        name: this.names().get(entry.id) || 'no name',
        before: getsText(before),
        after: getsText(after),
      })),
  );
  protected readonly sum = computed(() => {
    const count = this.changes().length;
    if (count === 0) return 'It changes nobody’s papers.';
    return count === 1
      ? '1 learner would get something else:'
      : `${count} learners would get something else:`;
  });

  protected pick(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  protected showAll(): void {
    const entryIds = this.changes().map(({ entry }) => entry.id);
    this.store.dispatch(
      deskActions.showSome({ some: { label: 'Those who would get something else', entryIds } }),
    );
  }
}

/** What somebody gets, in few words. */
export function getsText({ templates, leftOut }: Sorted<TemplateWriting>): string {
  if (leftOut !== null) return leftOut.trim() ? `left out, because ${leftOut.trim()}` : 'left out';
  return templates.map(({ content }) => content.name).join(', ') || 'nothing';
}
