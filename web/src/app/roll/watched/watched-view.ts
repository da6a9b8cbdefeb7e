import { Dialog } from '@angular/cdk/dialog';
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { WatchedFile, WatchedList, WatchPlace } from '@scriptum/core/contract';
import { newId } from '../../api/new-id';
import { deskFeature } from '../../state/desk';
import { watchedActions, watchedFeature } from '../../state/watched';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { Switch } from '../../ui/switch';
import { RollViews } from '../roll-views';
import { changeWatched, watchedSentence, type WatchedSurroundings } from './watched-sentence';

const NOTHING: WatchedList = { files: [], folder: null, there: null, origins: [] };

/** Files of which newer versions are taken over by themselves: where they lie, how often they are looked at, and what came. */
@Component({
  selector: 'sc-watched-view',
  imports: [DatePipe, Icon, RollViews, RouterLink, Sentence, Switch],
  templateUrl: './watched-view.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class WatchedView {
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  protected readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly state = this.store.selectSignal(watchedFeature.selectWatchedState);
  private readonly sources = computed(() => this.folio()?.sources ?? []);
  private readonly around = computed((): WatchedSurroundings => ({
    sources: this.sources(),
    list: this.state().list ?? NOTHING,
  }));
  protected readonly files = computed(() =>
    (this.state().list?.files ?? []).map((file) => ({ file, pieces: watchedSentence(file, this.around()) })),
  );
  protected readonly isAllowed = computed(() => {
    const { there, origins } = this.around().list;
    return there !== null || origins.length > 0;
  });
  /** The first source that is not watched yet. */
  private readonly free = computed(() =>
    this.sources().find(({ id }) => !this.around().list.files.some(({ sourceId }) => sourceId === id)),
  );
  protected readonly hasSources = computed(() => this.sources().length > 0);
  protected readonly canAdd = computed(
    () => this.isAllowed() && this.free() !== undefined && !this.state().busy,
  );
  /** Why nothing can be added now. */
  protected readonly whyNot = computed(() =>
    this.isAllowed() && this.hasSources() && !this.free() ? 'Each source is watched already' : '',
  );

  constructor() {
    const folioId = computed(() => this.folio()?.id);
    effect(() => {
      if (folioId()) untracked(() => this.store.dispatch(watchedActions.asked()));
    });
  }

  /** Off at first, so that nothing is taken over before it is said where it lies. */
  protected add(): void {
    const source = this.free();
    const { there, origins } = this.around().list;
    if (!source) return;
    const place: WatchPlace =
      there === null
        ? { kind: 'web', url: `${origins[0]!}/${encodeURIComponent(source.fileName)}`, user: '' }
        : {
            kind: 'folder',
            path: there.includes(source.fileName) ? source.fileName : (there[0] ?? source.fileName),
          };
    const asked = {
      id: newId(),
      sourceId: source.id,
      place,
      everyMinutes: 15,
      missing: 'leave out',
      isOn: false,
    } as const;
    this.store.dispatch(watchedActions.add({ asked }));
  }

  protected change(file: WatchedFile, change: SentenceChange): void {
    const asked = changeWatched(file, change, this.around());
    if (asked) this.store.dispatch(watchedActions.change({ watchedId: file.id, change: asked }));
  }

  protected switch({ id, isOn }: WatchedFile): void {
    this.store.dispatch(watchedActions.change({ watchedId: id, change: { isOn: !isOn } }));
  }

  protected account(file: WatchedFile, user: string, password: string): void {
    const { place, id } = file;
    if (place.kind !== 'web') return;
    const to: WatchPlace = {
      kind: 'web',
      url: place.url,
      user: user.trim(),
      ...(password === '' ? {} : { password }),
    };
    this.store.dispatch(watchedActions.change({ watchedId: id, change: { place: to } }));
  }

  protected look({ id }: WatchedFile): void {
    this.store.dispatch(watchedActions.lookNow({ watchedId: id }));
  }

  protected show(file: WatchedFile): void {
    this.store.dispatch(watchedActions.showVersion({ file }));
  }

  protected delete(file: WatchedFile): void {
    this.confirm(
      {
        title: 'Watch this file no longer?',
        text: 'Nothing more comes from it. What it brought stays on the roll, and the file stays where it lies.',
        yes: 'Watch it no longer',
        grave: true,
      },
      () => this.store.dispatch(watchedActions.delete({ watchedId: file.id })),
    );
  }

  protected nameOf({ place }: WatchedFile): string {
    return place.kind === 'folder' ? place.path : place.url;
  }

  protected tookOf({ took }: WatchedFile): string {
    if (!took) return '';
    const count = (n: number, what: string): string[] => (n === 0 ? [] : [`${n.toLocaleString()} ${what}`]);
    const parts = [
      ...count(took.added, 'new'),
      ...count(took.changed, 'changed'),
      ...count(took.missing, 'missing'),
    ];
    return parts.join(', ') || 'no learner is another one';
  }

  private confirm(data: Confirmation, then: () => void): void {
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) then();
      });
  }
}
