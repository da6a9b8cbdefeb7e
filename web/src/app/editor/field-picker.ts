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
import { optionsFor, type SentenceOption } from '../ui/sentence/sentence-piece';
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
  imports: [CdkConnectedOverlay],
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
  protected readonly typed = signal('');
  protected readonly chosen = signal(0);
  protected readonly origin = computed((): FlexibleConnectedPositionStrategyOrigin => {
    const at = this.at();
    return at ? { ...at, width: 1 } : { x: 0, y: 0 };
  });
  protected readonly lines = computed((): SentenceOption[] => {
    const options = columnOptions({ columns: this.columns(), entry: this.entry() });
    const part = { id: 'field', label: 'the column', text: '', value: '', options };
    return optionsFor(part, this.typed());
  });

  ngOnDestroy(): void {
    this.close();
  }

  /** Opens the list at the caret. Keys are its own from now on, also those that come before it is drawn. */
  open(at: ScreenPlace): void {
    this.typed.set('');
    this.chosen.set(0);
    this.at.set(at);
    document.addEventListener('keydown', this.early, true);
  }

  protected type(text: string): void {
    this.typed.set(text);
    this.chosen.set(0);
  }

  protected press(event: KeyboardEvent): void {
    const move = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (move !== undefined) {
      this.chosen.update((at) => Math.min(this.lines().length - 1, Math.max(0, at + move)));
      queueMicrotask(() =>
        document.getElementById(`field-pick-${this.chosen()}`)?.scrollIntoView({ block: 'nearest' }),
      );
    } else if (event.key === 'Enter') this.take(this.lines()[this.chosen()]);
    else if (event.key === 'Escape' || event.key === 'Tab') this.leave();
    else return;
    event.preventDefault();
    event.stopPropagation();
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
    document.getElementById('field-pick')?.focus();
  }

  private close(): void {
    this.at.set(null);
    document.removeEventListener('keydown', this.early, true);
  }

  private readonly early = (event: KeyboardEvent): void => {
    if (document.activeElement?.id === 'field-pick') return;
    this.press(event);
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Backspace') this.type(this.typed().slice(0, -1));
    else if (event.key.length === 1) this.type(this.typed() + event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
}
