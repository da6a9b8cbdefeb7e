import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { Icon } from './icon';

/** The endings of files that hold a table. */
export const FILE_KINDS = '.csv,.tsv,.txt,.xlsx,.xlsm,.xls,.ods,.zip,text/csv';

/** A place to drop a file with a table, or to choose one. */
@Component({
  selector: 'sc-sheet-drop',
  imports: [Icon],
  template: `
    <div
      class="flex flex-col items-center gap-2 rounded-md border-2 border-dashed px-6 py-8 text-center"
      [class]="over() ? 'border-verdigris bg-wash' : 'border-edge'"
      (dragover)="$event.preventDefault(); over.set(true)"
      (dragleave)="over.set(false)"
      (drop)="drop($event)"
    >
      <sc-icon name="lucideFileUp" [size]="28" class="text-verdigris" />
      <p>{{ busy() ? 'Reading the file …' : text() }}</p>
      <button type="button" class="btn" [disabled]="busy()" (click)="file.click()">Choose a file</button>
      <input
        #file
        type="file"
        class="hidden"
        aria-label="File with a table"
        [accept]="kinds"
        (change)="choose(file)"
      />
    </div>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetDrop {
  readonly text = input('Drop a sheet here: CSV, XLSX, XLS or ODS, one row for each learner.');
  readonly busy = input(false);
  readonly dropped = output<File>();
  protected readonly over = signal(false);
  protected readonly kinds = FILE_KINDS;

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    const file = event.dataTransfer?.files[0];
    if (file && !this.busy()) this.dropped.emit(file);
  }

  protected choose(element: HTMLInputElement): void {
    const file = element.files?.[0];
    if (file) this.dropped.emit(file);
    element.value = '';
  }
}
