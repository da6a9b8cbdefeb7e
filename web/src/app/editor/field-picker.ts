import {
  CdkConnectedOverlay,
  type ConnectedPosition,
  type FlexibleConnectedPositionStrategyOrigin,
} from '@angular/cdk/overlay';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  type OnDestroy,
  output,
  signal,
} from '@angular/core';
import type { Column } from '@scriptum/core/column';
import type { Entry } from '@scriptum/core/roll';
import { Picking, PickList } from '../ui/pick-list';
import type { SentenceOption } from '../ui/sentence/sentence-piece';
import { columnOptions } from './condition-sentence';

/** Where something is on the screen, in CSS pixels. */
export interface ScreenPlace {
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

const POSITIONS: ConnectedPosition[] = [
  { originX: 'start', originY: 'bottom', overlayX: 'start', overlayY: 'top', offsetY: 4 },
  { originX: 'start', originY: 'top', overlayX: 'start', overlayY: 'bottom', offsetY: -4 },
];

/** The columns as a list at the caret, filtered by what is typed: Enter puts the one in, Escape leaves. */
@Component({
  selector: 'sc-field-picker',
  imports: [CdkConnectedOverlay, PickList],
  templateUrl: './field-picker.html',
  // The list lies over everything; where it is written it takes no room.
  host: { class: 'hidden' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FieldPicker implements OnDestroy {
  readonly columns = input.required<readonly Column[]>();
  readonly entry = input<Entry>();
  readonly picked = output<Column>();
  readonly left = output<void>();

  /** Where the caret is while the list is open; null while it is not. */
  protected readonly at = signal<ScreenPlace | null>(null);
  protected readonly positions = POSITIONS;
  protected readonly picking = new Picking('field-pick', () =>
    columnOptions({ columns: this.columns(), entry: this.entry() }),
  );
  protected readonly origin = computed((): FlexibleConnectedPositionStrategyOrigin => {
    const at = this.at();
    return at ? { ...at, width: 1 } : { x: 0, y: 0 };
  });
  ngOnDestroy(): void {
    this.close();
  }

  /** Opens the list at the caret. Keys are its own from now on, also those that come before it is drawn. */
  open(at: ScreenPlace): void {
    this.picking.type('');
    this.at.set(at);
    document.addEventListener('keydown', this.early, true);
  }

  protected take(line: SentenceOption | undefined): void {
    const column = this.columns().find(({ id }) => id === line?.value);
    if (!column) return;
    this.close();
    this.picked.emit(column);
  }

  protected leave(): void {
    if (!this.at()) return;
    this.close();
    this.left.emit();
  }

  protected ready(): void {
    document.getElementById(this.picking.id)?.focus();
  }

  private close(): void {
    this.at.set(null);
    document.removeEventListener('keydown', this.early, true);
  }

  private readonly early = (event: KeyboardEvent): void => {
    const { picking } = this;
    if (document.activeElement?.id === picking.id) return;
    const asked = picking.key(event);
    if (asked === 'leave') this.leave();
    else if (asked === 'take') this.take(picking.line);
    else if (asked === null) {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'Backspace') picking.type(picking.typed().slice(0, -1));
      else if (event.key.length === 1) picking.type(picking.typed() + event.key);
      else return;
    }
    event.preventDefault();
    event.stopPropagation();
  };
}
