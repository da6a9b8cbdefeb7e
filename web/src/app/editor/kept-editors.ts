import { inject, Injectable } from '@angular/core';
import { Actions, ofType } from '@ngrx/effects';
import type { Editor } from '@tiptap/core';
import { sessionActions } from '../state/session';
import type { ChipSource } from './chip-source';

/** What an editor tells the component that shows it. */
export interface EditorListener {
  changed(): void;
  moved(): void;
  focused(): void;
  files(files: FileList | undefined): boolean;
  opened(fieldId: string): void;
  /** A field is wanted at the caret. */
  wanted(): void;
}

/** An editor with its text, its history of changes, and the element that it stands in. */
export interface KeptEditor {
  readonly editor: Editor;
  readonly chips: ChipSource;
  readonly element: HTMLElement;
  /** Null while it is not shown. */
  listener: EditorListener | null;
}

/** How many stay. A desk shows four. */
const KEPT = 12;

/** Editors that are not shown just now, so that a change can still be undone after a look at another station. */
@Injectable({ providedIn: 'root' })
export class KeptEditors {
  private readonly editors = new Map<string, KeptEditor>();

  constructor() {
    // Whoever signs in gets no history of what somebody else wrote here.
    inject(Actions)
      .pipe(ofType(sessionActions.known))
      .subscribe(() => this.keep(0));
  }

  /** The editor of this name, made where there is none that can be had. */
  take(name: string, make: () => KeptEditor): KeptEditor {
    const known = this.editors.get(name);
    // Shown in another place just now: each place has its own.
    const kept = known?.listener === null ? known : make();
    this.editors.delete(name);
    this.editors.set(name, kept);
    // What is asked for just now is not shown yet.
    this.keep(KEPT, kept);
    return kept;
  }

  /** Ends the oldest of those that are not shown, down to so many. */
  private keep(most: number, except?: KeptEditor): void {
    for (const [name, one] of this.editors) {
      if (this.editors.size <= most) break;
      if (one.listener || one === except) continue;
      this.editors.delete(name);
      one.editor.destroy();
    }
  }

  /** Puts an editor away; one that nobody will ask for is ended. */
  putAway(name: string | null, kept: KeptEditor): void {
    kept.listener = null;
    kept.element.remove();
    if (name === null || this.editors.get(name) !== kept) kept.editor.destroy();
  }
}
