import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { DialogRef } from '@angular/cdk/dialog';

const mac = /Mac|iP(hone|ad)/.test(navigator.platform);
/** The key that commands begin with on this system. */
export const COMMAND = mac ? '⌘' : 'Ctrl';

/** The keyboard shortcuts. */
@Component({
  selector: 'sc-shortcuts-dialog',
  template: `
    <h2 id="shortcuts-title" class="text-title">Keyboard shortcuts</h2>
    <dl class="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
      @for (shortcut of shortcuts; track shortcut[1]) {
        <dt>
          <kbd class="rounded border border-edge px-1.5 py-0.5 text-small">{{ shortcut[0] }}</kbd>
        </dt>
        <dd>{{ shortcut[1] }}</dd>
      }
    </dl>
    <button type="button" class="btn self-end" (click)="dialog.close()">Close</button>
  `,
  host: { class: 'panel flex max-h-[90vh] w-120 max-w-[90vw] flex-col gap-4 overflow-y-auto p-5' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShortcutsDialog {
  protected readonly dialog = inject(DialogRef);
  protected readonly shortcuts = [
    [`${COMMAND} K`, 'Find: a command, a learner, a letter, a folio'],
    ['F9', 'Next learner, from anywhere'],
    ['F8', 'Previous learner, from anywhere'],
    [mac ? '⌥ ↓ / ⌥ ↑' : 'Alt ↓ / Alt ↑', 'Next / previous learner'],
    [mac ? '⌥ 1 … ⌥ 5' : 'Alt 1 … Alt 5', 'To a station: Roll, Page, Note, Press, Register'],
    [mac ? '⌥ 0' : 'Alt 0', 'At Page: the text, the proof, or both'],
    ['F2', 'In a text: put in a field'],
    ['Enter', 'On a selected field, table or chart: what it prints'],
    [`${COMMAND} Z`, 'Undo, in a text and in the roll'],
    [`${COMMAND} ⇧ Z`, 'Redo'],
    [`${COMMAND} B / I / U`, 'Bold / italic / underline'],
    ['← ↑ → ↓', `On a certificate: move the place by 1 mm, with ${COMMAND} by 0.1 mm; with ⇧ size it`],
    ['Enter', 'On a place of a certificate: write in it; Escape goes back'],
    [`${COMMAND} G`, 'On a certificate: make a group; with ⇧ take it apart'],
    ['Page ↑ / ↓', 'On a certificate: read the place earlier or later'],
    ['Enter, F2', 'In the table: write in the cell'],
    [`${COMMAND} D`, 'In the table: fill down'],
    ['⇧ F10', 'In the table: what can be done with the column'],
    ['?', 'This list'],
  ];
}
