import { DatePipe, DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import type { DropOff, DropPlace } from '@scriptum/core/contract';
import {
  asyncScheduler,
  catchError,
  EMPTY,
  exhaustMap,
  startWith,
  throttleTime,
  type Observable,
} from 'rxjs';
import { Api, troubleOf } from '../api/api';
import { deskActions, deskFeature } from '../state/desk';
import { registerActions } from '../state/register';
import { Icon } from '../ui/icon';

/** Papers as files elsewhere: in a folder on the server, or at a WebDAV address. */
@Component({
  selector: 'sc-drop-off-panel',
  imports: [DatePipe, DecimalPipe, Icon],
  templateUrl: './drop-off-panel.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DropOffPanel {
  private readonly api = inject(Api);
  private readonly folio = inject(Store).selectSignal(deskFeature.selectFolio);
  protected readonly about = signal<DropOff | null>(null);
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  /** What is being written, where something is. */
  protected readonly writing = signal<DropPlace['kind'] | null>(null);
  protected readonly where = computed(() => {
    const place = this.about()?.place;
    if (!place) return '';
    return place.kind === 'folder' ? place.path || 'the school’s own folder' : readable(place.url);
  });

  /** What stands in the boxes before anything is written there. */
  protected readonly before = computed(() => ({
    path: '',
    url: '',
    user: '',
    hasPassword: false,
    ...this.about()?.place,
  }));

  constructor() {
    inject(Actions)
      .pipe(
        ofType(registerActions.packNews, deskActions.folioArrived),
        startWith(null),
        throttleTime(400, asyncScheduler, { leading: true, trailing: true }),
        exhaustMap(() => {
          const folio = this.folio();
          return folio ? this.api.dropOff(folio.id).pipe(catchError(() => EMPTY)) : EMPTY;
        }),
        takeUntilDestroyed(inject(DestroyRef)),
      )
      .subscribe((about) => this.about.set(about));
  }

  protected folder(path: string): void {
    this.do((id) => this.api.setDropOff(id, { kind: 'folder', path: path.trim().replace(/^\/+|\/+$/g, '') }));
  }

  protected webDav(url: string, user: string, password: string): void {
    const place: DropPlace = { kind: 'webdav', url: url.trim(), user: user.trim() };
    this.do((id) => this.api.setDropOff(id, password ? { ...place, password } : place));
  }

  protected practise({ url, user, password }: NonNullable<DropOff['practice']>): void {
    const folder = encodeURIComponent((this.folio()?.title ?? 'Papers').replace(/[/\\]/g, '-'));
    this.webDav(`${url}${folder}/`, user, password);
  }

  protected again(): void {
    this.do((id) => this.api.dropAgain(id));
  }

  protected end(): void {
    this.do((id) => this.api.endDropOff(id));
  }

  private do(work: (folioId: string) => Observable<DropOff>): void {
    const folio = this.folio();
    if (!folio || this.busy()) return;
    this.busy.set(true);
    this.trouble.set('');
    work(folio.id).subscribe({
      next: (about) => {
        this.busy.set(false);
        this.about.set(about);
        this.writing.set(null);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(troubleOf(error).message);
      },
    });
  }
}

/** An address as people read it. */
function readable(url: string): string {
  try {
    return decodeURI(url);
  } catch {
    return url;
  }
}
