import { DOCUMENT, inject, Injectable, signal } from '@angular/core';

export type Theme = 'light' | 'dark';
const KEY = 'scriptum-theme';

/** Light or dark: as the person chose on this machine, else as the system has it. */
@Injectable({ providedIn: 'root' })
export class ThemeChoice {
  private readonly document = inject(DOCUMENT);
  readonly theme = signal<Theme>(this.first());

  constructor() {
    this.show();
  }

  toggle(): void {
    this.theme.update((theme) => (theme === 'dark' ? 'light' : 'dark'));
    this.document.defaultView?.localStorage.setItem(KEY, this.theme());
    this.show();
  }

  private first(): Theme {
    const window = this.document.defaultView;
    const kept = window?.localStorage.getItem(KEY);
    if (kept === 'light' || kept === 'dark') return kept;
    return window?.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  }

  private show(): void {
    this.document.documentElement.dataset['theme'] = this.theme();
  }
}
