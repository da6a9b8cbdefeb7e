import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { Store } from '@ngrx/store';
import type { Proof } from '@scriptum/core/contract';
import type { Rect } from '@scriptum/core/placing';
import { sizeOfPage, type Placed, type PlacedBox } from '@scriptum/core/template';
import { deskFeature } from '../../state/desk';
import { writingActions, writingFeature } from '../../state/writing';
import {
  HANDLES,
  insideEdge,
  isFrame,
  movingTo,
  sweptOver,
  type Drag,
  type Handle,
  type Moving,
  type Point,
} from './drag';
import { Forms, printedOn } from './forms';
import type { Offer } from './blank-boxes';
import { Rulers } from './rulers';

/** Pixels for a millimetre at true size (CSS Values 3, 6.2: 96 px to an inch). */
const TRUE_SIZE = 96 / 25.4;
/** Pixels within which things are drawn to lines, and that the mouse moves before anything does. */
const NEAR = 6;
const SLACK = 3;
/** Pixels around a page. */
const AROUND = 24;
/** Millimetres between the lines of the grid. */
const GRID = 5;

export type Zoom = 'fit' | number;

interface ShownPage {
  readonly n: number;
  readonly width: number;
  readonly height: number;
  readonly url: SafeUrl | null;
  readonly blob: string | null;
  readonly boxes: readonly PlacedBox[];
}

/** The boxes after they were moved or sized by hand. */
export type Moved = ReadonlyMap<string, Rect>;

/** The picked learner's paper, on which boxes are picked, moved and sized. */
@Component({
  selector: 'sc-placed-paper',
  imports: [Rulers],
  templateUrl: './placed-paper.html',
  styleUrl: './placed-paper.css',
  host: {
    class: 'block min-h-0 min-w-0 overflow-auto bg-ground',
    role: 'region',
    'aria-label': 'Paper',
    tabindex: '-1',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlacedPaper implements OnDestroy {
  readonly template = input.required<Placed>();
  /** Whether its pages stand behind the text of a letter. */
  readonly behind = input(false);
  /** Identities of the boxes that are picked. */
  readonly picked = input.required<readonly string[]>();
  readonly nameOf = input.required<(box: PlacedBox) => string>();
  readonly zoom = input.required<Zoom>();
  readonly rulers = input(false);
  /** A blank of the form below, to be shown. */
  readonly pointed = input<Offer | null>(null);
  readonly pick = output<readonly string[]>();
  readonly moved = output<Moved>();
  /** Enter, or twice clicked: what stands in the box is to be changed. */
  readonly opened = output<string>();
  /** A key over a box, which the station knows what to do with. */
  readonly keyed = output<KeyboardEvent>();
  /** The page that is looked at. */
  readonly looked = output<number>();

  private readonly store = inject(Store);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly proof = this.store.selectSignal(writingFeature.selectProof);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly pickedLearner = this.store.selectSignal(deskFeature.selectPickedId);
  protected readonly trouble = this.store.selectSignal(writingFeature.selectProofTrouble);
  protected readonly learner = computed(() => this.names().get(this.pickedLearner() ?? '') ?? 'nobody yet');
  protected readonly handles = HANDLES;
  protected readonly around = AROUND;
  protected readonly grid = GRID;
  private readonly room = signal({ width: 700, height: 600 });
  private readonly urls = signal<readonly string[]>([]);
  private stale: readonly string[] = [];
  private readonly watching = new ResizeObserver(([entry]) => {
    const { width, height } = entry!.contentRect;
    this.room.set({ width, height });
  });
  private readonly blanks = inject(Forms).blanks;
  protected readonly moving = signal<Moving | null>(null);
  private drag: Drag | null = null;
  private pressed: { x: number; y: number } | null = null;

  /** Pixels for a millimetre. */
  readonly scale = computed(() => {
    const zoom = this.zoom();
    if (zoom !== 'fit') return (TRUE_SIZE * zoom) / 100;
    const { width, height } = sizeOfPage(this.template(), 0);
    const { width: w, height: h } = this.room();
    return Math.max(0.5, Math.min((w - 2 * AROUND) / width, (h - 2 * AROUND) / height));
  });
  protected readonly pages = computed((): ShownPage[] => {
    const [template, urls] = [this.template(), this.urls()];
    return template.pages.map((_, n) => {
      const blob = urls[n] ?? null;
      return {
        n,
        ...sizeOfPage(template, n),
        blob,
        // Our own blob: URLs of our own server's picture, shown as an image: nothing in it can run.
        url: blob && this.sanitizer.bypassSecurityTrustUrl(blob),
        boxes: template.boxes.filter(({ page }) => page === n),
      };
    });
  });
  private readonly pickedSet = computed(() => new Set(this.picked()));
  /** The one box that is picked, where it can be sized. */
  protected readonly sizable = computed(() => {
    const [id, ...more] = this.picked();
    const box = more.length === 0 ? this.template().boxes.find((one) => one.id === id) : undefined;
    return box && !box.locked && !box.turn ? box : null;
  });

  constructor() {
    this.store.dispatch(writingActions.proofShown());
    this.watching.observe(this.host.nativeElement);
    effect(() => this.take(this.proof()));
  }

  ngOnDestroy(): void {
    this.watching.disconnect();
    this.store.dispatch(writingActions.proofHidden());
    [...this.urls(), ...this.stale].forEach((url) => URL.revokeObjectURL(url));
  }

  private take(proof: Proof | null): void {
    // The pictures before the last are gone from the screen by now.
    this.stale.forEach((url) => URL.revokeObjectURL(url));
    // Without one it is another certificate's turn: nothing of the last one is to be seen behind its places.
    // A letter's text stands before pages that are behind it.
    const shown = proof?.pages.length ?? 0;
    const before = untracked(() => (this.behind() ? Math.max(0, shown - this.template().pages.length) : 0));
    const next = (proof?.pages ?? [])
      .slice(before)
      .map(({ svg }) => URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' })));
    this.urls.update((urls) => {
      this.stale = urls;
      return next;
    });
  }

  /** Where a box stands now, as styles in pixels. */
  protected rect(box: PlacedBox): Rect {
    return this.moving()?.rects.get(box.id) ?? box;
  }

  protected isPicked(box: PlacedBox): boolean {
    return this.pickedSet().has(box.id);
  }

  protected isMoving(box: PlacedBox): boolean {
    return this.moving()?.rects.has(box.id) ?? false;
  }

  protected labelOf(box: PlacedBox): string {
    const { x, y, width, height, locked } = box;
    return `${this.nameOf()(box)}: ${x} mm from the left, ${y} mm from the top, ${width} by ${height} mm${locked ? ', locked' : ''}`;
  }

  protected px(mm: number): number {
    return mm * this.scale();
  }

  /** The mouse went down on a box. */
  protected press(event: PointerEvent, box: PlacedBox, page: HTMLElement): void {
    if (event.button !== 0) return;
    const at = this.pointOf(event, page);
    if (isFrame(box) && box.kind === 'ornament') {
      const edge = box.ornament.kind === 'border' ? box.ornament.size + 2 : 0;
      // What stands in a frame's middle, or nothing, is meant.
      if (box.ornament.kind === 'border' && insideEdge(box, at) > edge)
        return this.sweep(event, box.page, page);
    }
    event.stopPropagation();
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    const group = this.template().boxes.filter(
      (one) => one.id === box.id || (box.group && one.group === box.group),
    );
    const ids = group.map(({ id }) => id);
    const had = this.picked();
    const picked = more
      ? this.isPicked(box)
        ? had.filter((id) => !ids.includes(id))
        : [...had, ...ids]
      : this.isPicked(box)
        ? had
        : ids;
    if (picked !== had) this.pick.emit(picked);
    this.looked.emit(box.page);
    const boxes = this.template().boxes.filter(
      ({ id, page: on, locked }) => picked.includes(id) && on === box.page && !locked,
    );
    if (boxes.length > 0 && picked.includes(box.id))
      this.begin(event, { kind: 'move', page: box.page, from: at, boxes });
  }

  protected size(event: PointerEvent, box: PlacedBox, handle: Handle, page: HTMLElement): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.preventDefault();
    this.begin(event, { kind: 'size', page: box.page, from: this.pointOf(event, page), box, handle });
  }

  protected sweep(event: PointerEvent, n: number, page: HTMLElement): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    const had = more ? this.picked() : [];
    if (!more && this.picked().length > 0) this.pick.emit([]);
    this.looked.emit(n);
    this.begin(event, { kind: 'sweep', page: n, from: this.pointOf(event, page), had });
  }

  private begin(event: PointerEvent, drag: Drag): void {
    this.pressed = { x: event.clientX, y: event.clientY };
    this.drag = drag;
  }

  protected go(event: PointerEvent, page: HTMLElement): void {
    const { drag, pressed } = this;
    if (!drag || !pressed) return;
    const far = Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y);
    if (!this.moving()) {
      if (far < SLACK) return;
      // Only now: a click that moves nothing is the box's own.
      page.setPointerCapture(event.pointerId);
    }
    this.moving.set(
      movingTo(
        drag,
        // By how far the mouse went: the page itself may move when a row of tools comes above it.
        {
          x: drag.from.x + (event.clientX - pressed.x) / this.scale(),
          y: drag.from.y + (event.clientY - pressed.y) / this.scale(),
        },
        this.template(),
        { free: event.altKey, straight: event.shiftKey },
        {
          near: NEAR / this.scale(),
          grid: this.rulers() ? GRID : undefined,
          printed: printedOn(this.template(), drag.page, this.blanks()),
        },
      ),
    );
  }

  protected drop(): void {
    const [drag, moving] = [this.drag, this.moving()];
    this.giveUp();
    if (!drag || !moving) return;
    if (drag.kind === 'sweep') {
      const swept = moving.sweep ? sweptOver(this.template(), drag.page, moving.sweep) : [];
      this.pick.emit([...new Set([...drag.had, ...swept])]);
    } else this.moved.emit(moving.rects);
  }

  /** What was begun is not done: everything stands where it stood. */
  protected giveUp(): void {
    this.drag = null;
    this.pressed = null;
    this.moving.set(null);
  }

  protected key(event: KeyboardEvent, box: PlacedBox): void {
    if (event.key === 'Escape' && this.moving()) this.giveUp();
    else if (event.key === 'Enter') {
      event.preventDefault();
      this.pick.emit([box.id]);
      this.opened.emit(box.id);
    } else this.keyed.emit(event);
  }

  protected focus(box: PlacedBox): void {
    this.looked.emit(box.page);
    if (!this.isPicked(box) && !this.drag) this.pick.emit([box.id]);
  }

  /** Brings a box into sight, and the focus to it. */
  show(id: string, focus: boolean): void {
    const element = this.host.nativeElement.querySelector<HTMLElement>(`[data-box="${id}"]`);
    element?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    if (focus) element?.focus();
  }

  /** As much zoom as a box can have and still be seen whole. */
  zoomFor(box: Rect): number {
    const { width, height } = this.room();
    const scale = Math.min(
      (width - 2 * AROUND) / Math.max(box.width, 10),
      (height - 2 * AROUND) / Math.max(box.height, 10),
    );
    return Math.max(25, Math.min(600, Math.round((scale / TRUE_SIZE) * 80)));
  }

  private pointOf(event: PointerEvent, page: HTMLElement): Point {
    const { left, top } = page.getBoundingClientRect();
    return { x: (event.clientX - left) / this.scale(), y: (event.clientY - top) / this.scale() };
  }
}
