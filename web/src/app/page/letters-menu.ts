import { CdkConnectedOverlay, CdkOverlayOrigin, type ConnectedPosition } from '@angular/cdk/overlay';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { deskFeature } from '../state/desk';
import { Icon } from '../ui/icon';
import { selectSorter } from '../state/sorting';
import { writingFeature } from '../state/writing';
import { LettersPanel } from './letters-panel';

const POSITIONS: ConnectedPosition[] = [
  { originX: 'end', originY: 'bottom', overlayX: 'end', overlayY: 'top', offsetY: 4 },
];

/** Which letter of the folio is written, and the way to the others. */
@Component({
  selector: 'sc-letters-menu',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin, Icon, LettersPanel],
  template: `
    <button
      type="button"
      class="btn w-full justify-between gap-2"
      cdkOverlayOrigin
      #origin="cdkOverlayOrigin"
      aria-haspopup="dialog"
      [attr.aria-expanded]="open()"
      [attr.aria-label]="'Letters of this folio: ' + letter()?.content?.name + place()"
      (click)="open.set(!open())"
    >
      <span class="min-w-0 truncate">
        <bdi class="block truncate text-left">{{ letter()?.content?.name }}</bdi>
      </span>
      <span class="flex shrink-0 items-center gap-1 text-slate">
        {{ place() }}
        <sc-icon name="lucideChevronDown" [size]="14" />
      </span>
    </button>
    @if (instead(); as other) {
      <p class="mt-1 text-[12px] text-slate" role="status">
        <bdi>{{ other.learner }}</bdi>
        gets
        <bdi>“{{ other.letter }}”</bdi>
        instead.
      </p>
    }
    <ng-template
      cdkConnectedOverlay
      [cdkConnectedOverlayOrigin]="origin"
      [cdkConnectedOverlayOpen]="open()"
      [cdkConnectedOverlayPositions]="positions"
      [cdkConnectedOverlayPush]="true"
      (overlayOutsideClick)="leave($event, origin.elementRef.nativeElement)"
      (detach)="open.set(false)"
    >
      <sc-letters-panel (left)="close(origin.elementRef.nativeElement)" />
    </ng-template>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LettersMenu {
  private readonly store = inject(Store);
  private readonly letters = this.store.selectSignal(writingFeature.selectAllTemplates);
  protected readonly letter = this.store.selectSignal(writingFeature.selectCommonTemplate);
  private readonly sorter = this.store.selectSignal(selectSorter);
  private readonly picked = this.store.selectSignal(deskFeature.selectPicked);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  protected readonly positions = POSITIONS;
  protected readonly open = signal(false);
  protected readonly place = computed(() => {
    const all = this.letters();
    return all.length < 2
      ? ''
      : ` ${all.findIndex(({ id }) => id === this.letter()?.id) + 1} of ${all.length}`;
  });

  /** Where the picked learner gets another language’s letter than the one that is written on. */
  protected readonly instead = computed(() => {
    const [here, entry, names] = [this.letter(), this.picked(), this.names()];
    if (!here || here.content.off || !entry) return null;
    const of = here.content.variant?.of ?? here.id;
    const gets = this.sorter()(entry).templates.find(
      ({ id, content }) => id === of || content.variant?.of === of,
    );
    return gets && gets.id !== here.id
      ? { learner: names.get(entry.id) ?? '', letter: gets.content.name }
      : null;
  });

  protected leave(event: MouseEvent, origin: HTMLElement): void {
    if (!origin.contains(event.target as Node)) this.open.set(false);
  }

  protected close(origin: HTMLElement): void {
    this.open.set(false);
    origin.focus();
  }
}
