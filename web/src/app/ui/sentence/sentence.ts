import { CdkConnectedOverlay, CdkOverlayOrigin, type ConnectedPosition } from '@angular/cdk/overlay';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import {
  optionsFor,
  type SentenceChange,
  type SentenceOption,
  type SentencePart,
  type SentencePiece,
} from './sentence-piece';

/** What stands in the list of an open part: an option, or the text that was typed. */
interface Line {
  readonly value: string;
  readonly label: string;
  readonly hint: string;
}

const POSITIONS: ConnectedPosition[] = [
  { originX: 'start', originY: 'bottom', overlayX: 'start', overlayY: 'top', offsetY: 2 },
  { originX: 'start', originY: 'top', overlayX: 'start', overlayY: 'bottom', offsetY: -2 },
  { originX: 'end', originY: 'bottom', overlayX: 'end', overlayY: 'top', offsetY: 2 },
];

/** A part, and the sign that stands behind it. */
type ToldPart = SentencePart & { readonly behind: string };

let count = 0;

/**
 * A rule as a sentence whose underlined parts are changed in place: each opens a short list of what can stand there, typed
 * to filter. Tab goes from part to part.
 */
@Component({
  selector: 'sc-sentence',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin],
  templateUrl: './sentence.html',
  host: { class: 'block leading-[1.6] text-small', role: 'group', '[attr.aria-label]': 'label()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Sentence {
  readonly label = input.required<string>();
  readonly pieces = input.required<readonly SentencePiece[]>();
  readonly changed = output<SentenceChange>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly positions = POSITIONS;
  protected readonly listId = `sentence-list-${++count}`;
  /** The pieces, with a sign that ends a clause beside the part that it stands behind, so that no line begins with it. */
  protected readonly told = computed((): (string | ToldPart)[] => {
    const pieces = this.pieces();
    return pieces.map((piece, n) => {
      const [next, last] = [pieces[n + 1], pieces[n - 1]];
      if (isPart(piece)) return { ...piece, behind: typeof next === 'string' ? signOf(next) : '' };
      return last !== undefined && isPart(last) ? piece.slice(signOf(piece).length) : piece;
    });
  });
  private readonly openId = signal<string | null>(null);
  protected readonly open = computed(
    () =>
      this.pieces().find((piece): piece is SentencePart => isPart(piece) && piece.id === this.openId()) ??
      null,
  );
  protected readonly typed = signal('');
  /** What stood in the box when it was opened. */
  private written = '';
  protected readonly lines = computed((): Line[] => {
    const part = this.open();
    if (!part) return [];
    const typed = this.typed();
    const found = optionsFor(part, typed).map(lineOf);
    const own = part.typed !== undefined && typed !== '' && !found.some(({ label }) => label === typed);
    return own ? [{ value: typed, label: `“${typed}”`, hint: part.typed! }, ...found] : found;
  });
  /** The line that Enter takes: the one that is there already, else the first. */
  protected readonly at = linkedSignal(() => {
    const part = this.open();
    return this.typed() === ''
      ? Math.max(
          0,
          this.lines().findIndex(({ value }) => value === part?.value),
        )
      : 0;
  });

  protected readonly isPart = isPart;

  protected show(part: SentencePart): void {
    // What was typed here is there to be changed.
    const written = part.typed !== undefined && !part.options.some(({ value }) => value === part.value);
    this.written = written ? part.value : '';
    this.typed.set(this.written);
    this.openId.set(part.id);
  }

  /** Letters that are typed before the list has opened are not lost. */
  protected typeAhead({ id }: SentencePart, event: KeyboardEvent): void {
    if (this.openId() !== id || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Enter') this.take(this.lines()[this.at()]);
    else if (event.key.length === 1)
      this.typed.update((typed) => (typed === this.written ? event.key : typed + event.key));
    else return;
    event.preventDefault();
  }

  protected hide(): void {
    this.openId.set(null);
  }

  /** The list of a part is off the page; that of another may be open by now. */
  protected gone(id: string): void {
    if (this.openId() === id) this.hide();
  }

  protected ready(): void {
    // Where the list is short there is no box, and the list itself hears the keys.
    const typed = document.getElementById(`${this.listId}-typed`);
    typed?.focus();
    if (typed instanceof HTMLInputElement && this.typed() === this.written) typed.select();
    this.scrollTo();
  }

  protected take(line: Line | undefined): void {
    const part = this.open();
    if (!part || !line) return;
    this.hide();
    this.focusPart(part.id);
    if (line.value !== part.value) this.changed.emit({ id: part.id, value: line.value });
  }

  protected press(event: KeyboardEvent): void {
    const last = this.lines().length - 1;
    const move = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (move !== undefined) {
      this.at.update((at) => Math.min(last, Math.max(0, at + move)));
      this.scrollTo();
    } else if (event.key === 'Enter') this.take(this.lines()[this.at()]);
    else if (event.key === 'Escape' || event.key === 'Tab') {
      const { id } = this.open()!;
      this.hide();
      this.focusPart(id);
      // Tab goes on from the part.
      if (event.key === 'Tab') return;
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private focusPart(id: string): void {
    const parts = this.host.nativeElement.querySelectorAll<HTMLElement>('[data-part]');
    [...parts].find(({ dataset }) => dataset['part'] === id)?.focus();
  }

  private scrollTo(): void {
    queueMicrotask(() =>
      document.getElementById(`${this.listId}-${this.at()}`)?.scrollIntoView({ block: 'nearest' }),
    );
  }
}

const lineOf = ({ value, label, hint = '' }: SentenceOption): Line => ({ value, label, hint });

const signOf = (text: string): string => /^[.,:;]/.exec(text)?.[0] ?? '';

function isPart<T extends SentencePart>(piece: string | T): piece is T;
function isPart(piece: SentencePiece): piece is SentencePart {
  return typeof piece !== 'string';
}
