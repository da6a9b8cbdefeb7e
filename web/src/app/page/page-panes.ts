import { Injectable, signal } from '@angular/core';

/** What the middle of the station Page shows. */
export type Pane = 'text' | 'both' | 'paper';

export const PANES: readonly Pane[] = ['both', 'text', 'paper'];
const KEPT = 'scriptum-page-panes';

/** Which panes of the station Page people want to see; as they left it. */
@Injectable({ providedIn: 'root' })
export class PagePanes {
  readonly shown = signal<Pane>(PANES.find((pane) => pane === localStorage.getItem(KEPT)) ?? 'both');

  show(pane: Pane): void {
    this.shown.set(pane);
    localStorage.setItem(KEPT, pane);
  }

  next(): void {
    this.show(PANES[(PANES.indexOf(this.shown()) + 1) % PANES.length]!);
  }
}
