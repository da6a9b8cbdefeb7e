import { CdkConnectedOverlay, CdkOverlayOrigin, type ConnectedPosition } from '@angular/cdk/overlay';
import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  contentChild,
  type ElementRef,
  input,
  signal,
  TemplateRef,
  viewChild,
} from '@angular/core';
import { Icon } from './icon';

const POSITIONS: ConnectedPosition[] = [
  { originX: 'end', originY: 'bottom', overlayX: 'end', overlayY: 'top', offsetY: 4 },
  { originX: 'start', originY: 'bottom', overlayX: 'start', overlayY: 'top', offsetY: 4 },
];

/** A button that says what is chosen and opens a panel with all there is; the panel is a template inside, with `close` at hand. */
@Component({
  selector: 'sc-panel-button',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin, Icon, NgTemplateOutlet],
  template: `
    <button
      type="button"
      class="btn w-full justify-between gap-2"
      cdkOverlayOrigin
      #origin="cdkOverlayOrigin"
      #button
      aria-haspopup="dialog"
      [attr.aria-expanded]="open()"
      [attr.aria-label]="label()"
      (click)="open.set(!open())"
    >
      <span class="min-w-0 truncate">
        <bdi class="block truncate text-left">{{ chosen() }}</bdi>
      </span>
      <span class="flex shrink-0 items-center gap-1 text-slate">
        {{ aside() }}
        <sc-icon name="lucideChevronDown" [size]="14" />
      </span>
    </button>
    <ng-template
      cdkConnectedOverlay
      [cdkConnectedOverlayOrigin]="origin"
      [cdkConnectedOverlayOpen]="open()"
      [cdkConnectedOverlayPositions]="positions"
      [cdkConnectedOverlayPush]="true"
      (overlayOutsideClick)="leave($event)"
      (detach)="open.set(false)"
    >
      <ng-container [ngTemplateOutlet]="panel()" [ngTemplateOutletContext]="{ close }" />
    </ng-template>
  `,
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelButton {
  readonly label = input.required<string>();
  readonly chosen = input.required<string>();
  /** Beside it, such as which of how many it is. */
  readonly aside = input('');

  protected readonly panel = contentChild.required<TemplateRef<{ close: () => void }>>(TemplateRef);
  private readonly button = viewChild.required<ElementRef<HTMLElement>>('button');
  protected readonly positions = POSITIONS;
  protected readonly open = signal(false);

  protected leave(event: MouseEvent): void {
    if (!this.button().nativeElement.contains(event.target as Node)) this.open.set(false);
  }

  protected readonly close = (): void => {
    this.open.set(false);
    this.button().nativeElement.focus();
  };
}
