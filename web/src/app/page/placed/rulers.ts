import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { boundsOf } from '@scriptum/core/placing';
import type { Moving } from './drag';

/** Pixels that a ruler is wide. */
const WIDE = 18;

interface Mark {
  readonly at: number;
  readonly long: number;
  readonly label: string;
}

/** Rulers above and beside a page, in millimetres, with the place of what is being moved. */
@Component({
  selector: 'sc-rulers',
  template: `
    <svg
      class="absolute"
      aria-hidden="true"
      [attr.width]="width() * scale()"
      [attr.height]="wide"
      [style.top.px]="-wide"
    >
      @if (held(); as h) {
        <rect
          y="0"
          [attr.height]="wide"
          [attr.x]="h.x * scale()"
          [attr.width]="h.width * scale()"
          class="held"
        />
      }
      @for (mark of across(); track mark.at) {
        <line [attr.x1]="mark.at" [attr.x2]="mark.at" [attr.y1]="wide - mark.long" [attr.y2]="wide" />
        @if (mark.label) {
          <text [attr.x]="mark.at + 2" y="9">{{ mark.label }}</text>
        }
      }
    </svg>
    <svg
      class="absolute"
      aria-hidden="true"
      [attr.height]="height() * scale()"
      [attr.width]="wide"
      [style.left.px]="-wide"
    >
      @if (held(); as h) {
        <rect
          x="0"
          [attr.width]="wide"
          [attr.y]="h.y * scale()"
          [attr.height]="h.height * scale()"
          class="held"
        />
      }
      @for (mark of down(); track mark.at) {
        <line [attr.y1]="mark.at" [attr.y2]="mark.at" [attr.x1]="wide - mark.long" [attr.x2]="wide" />
        @if (mark.label) {
          <text x="1" [attr.y]="mark.at + 9">{{ mark.label }}</text>
        }
      }
    </svg>
  `,
  styles: `
    line {
      stroke: var(--slate);
      stroke-width: 1;
      shape-rendering: crispEdges;
    }
    text {
      fill: var(--slate);
      font-size: 9px;
    }
    .held {
      fill: var(--verdigris);
      opacity: 0.25;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Rulers {
  readonly width = input.required<number>();
  readonly height = input.required<number>();
  /** Pixels for a millimetre. */
  readonly scale = input.required<number>();
  readonly moving = input<Moving | null>(null);
  protected readonly wide = WIDE;
  protected readonly held = computed(() => {
    const moving = this.moving();
    return moving && boundsOf([...moving.rects.values()]);
  });
  protected readonly across = computed(() => marks(this.width(), this.scale()));
  protected readonly down = computed(() => marks(this.height(), this.scale()));
}

/** A mark each millimetre as long as they can be told apart, and numbers as far apart as they have room. */
function marks(length: number, scale: number): Mark[] {
  const fine = scale >= 3 ? 1 : scale >= 1.2 ? 5 : 10;
  const said = [10, 20, 50, 100].find((mm) => mm * scale >= 26) ?? 200;
  return Array.from({ length: Math.floor(length / fine) + 1 }, (_, n) => {
    const mm = n * fine;
    return {
      at: mm * scale,
      long: mm % 10 === 0 ? 8 : mm % 5 === 0 ? 6 : 3,
      label: mm % said === 0 ? String(mm) : '',
    };
  });
}
