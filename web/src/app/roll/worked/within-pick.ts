import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Column } from '@scriptum/core/column';
import { ColumnPick } from './fields';

/** Who is compared with whom: all, or those who agree in a column such as the class. */
@Component({
  selector: 'sc-within-pick',
  imports: [ColumnPick],
  template: `
    <p class="flex flex-wrap items-center gap-1.5">
      {{ lead() }}
      <sc-column-pick
        class="w-48"
        label="Compared within"
        none="roll (everybody)"
        [columns]="columns()"
        [value]="within()[0] ?? null"
        (changed)="pick(0, $event)"
      />
      @if (within().length > 0) {
        and
        <sc-column-pick
          class="w-48"
          label="And within"
          none="nothing else"
          [columns]="columns()"
          [value]="within()[1] ?? null"
          (changed)="pick(1, $event)"
        />
      }
    </p>
  `,
  host: { class: 'block text-small' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WithinPick {
  readonly columns = input.required<readonly Column[]>();
  readonly within = input.required<readonly string[]>();
  /** The beginning of the sentence. */
  readonly lead = input('Compared with learners of the same');
  readonly changed = output<string[]>();

  protected pick(at: number, columnId: string | null): void {
    const next = [...this.within()];
    if (columnId) next[at] = columnId;
    else next.splice(at);
    this.changed.emit([...new Set(next)]);
  }
}
