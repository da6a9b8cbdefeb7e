import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, HostListener, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { LetterheadVersions } from '@scriptum/core/contract';
import type { Letterhead } from '@scriptum/core/template';
import { from, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { TopBar } from '../shell/top-bar';
import { sessionFeature } from '../state/session';
import { Icon } from '../ui/icon';
import { forPage } from '../ui/picture-files';
import { TroubleBar } from '../ui/trouble-bar';
import { LetterheadDraft } from './letterhead-draft';
import { LetterheadForm } from './letterhead-form';
import { LetterheadProofView } from './letterhead-proof';
import { SignOffsForm } from './sign-offs-form';

/** The school's letterhead: what its papers have in common, changed once for all of them. */
@Component({
  selector: 'sc-letterhead-page',
  imports: [
    DatePipe,
    Icon,
    LetterheadForm,
    LetterheadProofView,
    RouterLink,
    SignOffsForm,
    TopBar,
    TroubleBar,
  ],
  templateUrl: './letterhead-page.html',
  host: { class: 'flex h-dvh flex-col overflow-hidden' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LetterheadPage {
  private readonly api = inject(Api);
  private readonly me = inject(Store).selectSignal(sessionFeature.selectMe);
  protected readonly state = inject(LetterheadDraft);
  /** Where people came from, such as a folio. */
  protected readonly back = inject(Router).lastSuccessfulNavigation()?.finalUrl?.toString() ?? '/';
  protected readonly print = signal<'printed' | 'room'>('printed');
  /** What is shown leaves out what is not whole yet. */
  protected readonly asked = computed(() => {
    const draft = this.state.draft();
    const signOffs = draft?.signOffs.filter(({ name }) => name !== '') ?? [];
    return { letterhead: draft && { ...draft, signOffs }, print: this.print() };
  });
  protected readonly versions = signal<LetterheadVersions['versions'] | null>(null);
  private readonly school = computed(() => this.me()?.staff?.school ?? '');

  constructor() {
    this.state.open(this.school());
  }

  @HostListener('window:beforeunload', ['$event'])
  protected leave(event: BeforeUnloadEvent): void {
    if (this.state.isChanged() && this.state.now()?.letterhead) event.preventDefault();
  }

  protected change(part: Partial<Letterhead>): void {
    this.state.change(part);
  }

  protected giveUp(): void {
    this.state.giveUp(this.school());
  }

  protected showVersions(open: boolean): void {
    if (!open) return;
    this.api.letterheadVersions().subscribe({
      next: ({ versions }) => this.versions.set(versions),
      error: (error: unknown) => this.state.fail(error),
    });
  }

  /** Puts an earlier one on the desk; it is not in use by that. */
  protected look(version: number): void {
    this.api.letterheadVersion(version).subscribe({
      next: ({ letterhead }) => this.state.change(letterhead),
      error: (error: unknown) => this.state.fail(error),
    });
  }

  protected addPicture(file: File, place: (asset: string) => void): void {
    this.state.trouble.set(null);
    from(forPage(file))
      .pipe(switchMap((small) => this.api.addLetterheadPicture(small)))
      .subscribe({
        next: ({ id }) => place(id),
        error: (error: unknown) => this.state.fail(error),
      });
  }
}
