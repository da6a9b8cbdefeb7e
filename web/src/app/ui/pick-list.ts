import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { optionsFor, type SentenceOption } from './sentence/sentence-piece';

const MOVES: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 };

/** A list that is filtered by what is typed: which lines there are, and which one is chosen. */
export class Picking {
  readonly typed = signal('');
  readonly chosen = signal(0);
  readonly lines = computed((): SentenceOption[] =>
    optionsFor({ options: this.options() }, this.typed()).slice(0, this.most),
  );

  /** @param id of the box that is typed in, unique on the page. */
  constructor(
    readonly id: string,
    private readonly options: () => readonly SentenceOption[],
    private readonly most = Infinity,
  ) {}

  type(text: string): void {
    this.typed.set(text);
    this.chosen.set(0);
  }

  /** What a key asks for; null for one that is none of the list's. Arrows choose another line here. */
  key({ key }: KeyboardEvent): 'take' | 'leave' | 'moved' | null {
    if (key === 'Enter') return 'take';
    if (key === 'Escape' || key === 'Tab') return 'leave';
    const move = MOVES[key];
    if (move === undefined) return null;
    this.chosen.update((at) => Math.min(this.lines().length - 1, Math.max(0, at + move)));
    queueMicrotask(() =>
      document.getElementById(`${this.id}-${this.chosen()}`)?.scrollIntoView({ block: 'nearest' }),
    );
    return 'moved';
  }

  get line(): SentenceOption | undefined {
    return this.lines()[this.chosen()];
  }
}

/** A box and the lines below it that agree with what is typed: arrows choose, Enter takes, Escape leaves. */
@Component({
  selector: 'sc-pick-list',
  template: `
    @let p = picking();
    <input
      #box
      class="input mb-1 w-full text-small"
      role="combobox"
      aria-autocomplete="list"
      aria-expanded="true"
      autocomplete="off"
      spellcheck="false"
      placeholder="Type to filter"
      [id]="p.id"
      [attr.aria-label]="label()"
      [attr.aria-controls]="p.id + '-list'"
      [attr.aria-activedescendant]="p.lines().length > 0 ? p.id + '-' + p.chosen() : null"
      [value]="p.typed()"
      (input)="p.type(box.value)"
    />
    <div
      role="listbox"
      tabindex="-1"
      class="max-h-64 overflow-y-auto"
      [id]="p.id + '-list'"
      [attr.aria-label]="listLabel()"
    >
      @for (line of p.lines(); track line.value) {
        <div
          role="option"
          class="menu-line"
          [id]="p.id + '-' + $index"
          [class.at]="$index === p.chosen()"
          [attr.aria-selected]="$index === p.chosen()"
          (mousedown)="$event.preventDefault()"
          (click)="taken.emit(line)"
          (mouseenter)="p.chosen.set($index)"
        >
          <span class="min-w-0 grow">
            <bdi class="block [overflow-wrap:anywhere]">{{ line.label }}</bdi>
            @if (line.hint) {
              <bdi class="block text-[12px] text-slate">{{ line.hint }}</bdi>
            }
          </span>
        </div>
      } @empty {
        <p class="px-2 py-1 text-small text-slate">{{ none() }}</p>
      }
    </div>
  `,
  host: { class: 'block', '(keydown)': 'press($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PickList {
  readonly picking = input.required<Picking>();
  readonly label = input.required<string>();
  readonly listLabel = input.required<string>();
  /** What is said where no line agrees. */
  readonly none = input.required<string>();
  readonly taken = output<SentenceOption>();
  readonly left = output<void>();

  protected press(event: KeyboardEvent): void {
    const asked = this.picking().key(event);
    if (asked === null) return;
    event.preventDefault();
    event.stopPropagation();
    const { line } = this.picking();
    if (asked === 'leave') this.left.emit();
    else if (asked === 'take' && line) this.taken.emit(line);
  }
}
