import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { FormItem } from '@scriptum/core/form';
import { Answering } from '../answering';

type SignatureItem = Extract<FormItem, { kind: 'signature' }>;

/** Pixels of the picture that a signature becomes. */
const WIDE = 900;
const HIGH = 300;
/** Milliseconds after the last stroke. */
const SETTLED = 700;

/** A signature, drawn by finger, pen or mouse, or written with the keyboard. */
@Component({
  selector: 'sf-signature-question',
  template: `
    <fieldset class="question" [attr.data-wrong]="wrong() || null" [attr.aria-describedby]="described()">
      <legend class="asked">
        {{ answering.say(item().label) }}
        @if (item().required) {
          <span class="needed">{{ words().required }}</span>
        }
      </legend>
      @if (answering.say(item().help); as help) {
        <p class="help" [id]="'help-' + item().id">{{ help }}</p>
      }
      <div class="pad">
        <canvas
          #pad
          [width]="wide"
          [height]="high"
          role="img"
          [attr.aria-label]="words().sign"
          (pointerdown)="begin($event)"
          (pointermove)="draw($event)"
          (pointerup)="end()"
          (pointercancel)="end()"
        ></canvas>
        @if (!isThere()) {
          <span class="hint" aria-hidden="true">{{ words().sign }}</span>
        }
      </div>
      <div class="below">
        <label>
          <span>{{ words().signTyped }}</span>
          <input type="text" maxlength="120" autocomplete="name" [value]="typed()" (change)="write($event)" />
        </label>
        <button type="button" class="plain" (click)="clear()">{{ words().clear }}</button>
      </div>
      @if (isThere()) {
        <p class="quiet" role="status">✓</p>
      }
      @if (wrong(); as says) {
        <p class="wrong" [id]="'wrong-' + item().id">{{ says }}</p>
      }
    </fieldset>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignatureQuestion {
  readonly item = input.required<SignatureItem>();
  protected readonly answering = inject(Answering);
  protected readonly words = this.answering.words;
  protected readonly wide = WIDE;
  protected readonly high = HIGH;
  private readonly pad = viewChild.required<ElementRef<HTMLCanvasElement>>('pad');
  protected readonly typed = signal('');
  private readonly refused = signal('');
  private last: { x: number; y: number } | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private readonly columnId = computed(() => this.item().columnId ?? this.item().id);
  protected readonly isThere = computed(() => this.answering.all(this.columnId()).length > 0);
  protected readonly wrong = computed(() => this.refused() || this.answering.problem(this.columnId()));

  protected described(): string | null {
    const ids = [
      this.item().help ? `help-${this.item().id}` : '',
      this.wrong() ? `wrong-${this.item().id}` : '',
    ];
    return ids.filter(Boolean).join(' ') || null;
  }

  protected begin(event: PointerEvent): void {
    event.preventDefault();
    this.pad().nativeElement.setPointerCapture(event.pointerId);
    this.last = this.place(event);
    this.line(this.last, this.last);
  }

  protected draw(event: PointerEvent): void {
    if (!this.last) return;
    const to = this.place(event);
    this.line(this.last, to);
    this.last = to;
  }

  protected end(): void {
    if (!this.last) return;
    this.last = null;
    this.settle();
  }

  protected write(event: Event): void {
    const name = (event.target as HTMLInputElement).value.trim();
    this.typed.set(name);
    this.blank();
    if (!name) {
      this.answering.set(this.columnId(), []);
      return;
    }
    const pen = this.pen();
    pen.textAlign = 'center';
    pen.textBaseline = 'middle';
    let size = 110;
    do pen.font = `italic ${size}px "Brush Script MT", "Segoe Script", cursive`;
    while (pen.measureText(name).width > WIDE - 60 && (size -= 6) > 20);
    pen.fillText(name, WIDE / 2, HIGH / 2);
    this.settle();
  }

  protected clear(): void {
    this.blank();
    this.typed.set('');
    this.refused.set('');
    this.answering.set(this.columnId(), []);
  }

  private settle(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.bring(), SETTLED);
  }

  private async bring(): Promise<void> {
    const { nativeElement } = this.pad();
    const picture = await new Promise<Blob | null>((resolve) => nativeElement.toBlob(resolve, 'image/png'));
    if (!picture) return;
    this.refused.set(
      await this.answering.bring(this.item().id, this.columnId(), picture, 'Signature.png', 1),
    );
  }

  private blank(): void {
    if (this.timer) clearTimeout(this.timer);
    this.pad().nativeElement.getContext('2d')!.clearRect(0, 0, WIDE, HIGH);
  }

  private pen(): CanvasRenderingContext2D {
    const pen = this.pad().nativeElement.getContext('2d')!;
    pen.strokeStyle = pen.fillStyle = '#14213d';
    pen.lineWidth = 5;
    pen.lineCap = pen.lineJoin = 'round';
    return pen;
  }

  private line(from: { x: number; y: number }, to: { x: number; y: number }): void {
    const pen = this.pen();
    pen.beginPath();
    pen.moveTo(from.x, from.y);
    pen.lineTo(to.x, to.y);
    pen.stroke();
  }

  private place({ clientX, clientY }: PointerEvent): { x: number; y: number } {
    const box = this.pad().nativeElement.getBoundingClientRect();
    return { x: ((clientX - box.left) * WIDE) / box.width, y: ((clientY - box.top) * HIGH) / box.height };
  }
}
