import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
} from '@angular/core';
import type { Fits, Proof } from '@scriptum/core/contract';
import type { Placed, PlacedBox } from '@scriptum/core/template';
import { Icon } from '../../ui/icon';
import { FitBar } from './fit-bar';
import { BOX_ICONS, BOX_WORDS } from './box-names';

/** Keys that do nothing by themselves. */
const MODIFIERS = new Set(['Shift', 'Control', 'Alt', 'Meta']);

/** One place, as the list shows it. */
interface Place {
  readonly box: PlacedBox;
  readonly name: string;
  readonly fit: { readonly text: string; readonly bad: boolean } | null;
}

type Fit = Proof['fits'][number];

/** The places of all pages in the order in which they are read. */
@Component({
  selector: 'sc-places-list',
  imports: [FitBar, Icon],
  template: `
    @for (page of pages(); track page.n) {
      @if (pages().length > 1) {
        <h3 class="label mt-1">Page {{ page.n + 1 }}</h3>
      }
      <ul class="-mx-1.5" [attr.aria-label]="'Places of page ' + (page.n + 1)">
        @for (place of page.places; track place.box.id) {
          <li>
            <button
              type="button"
              class="flex min-h-6 w-full items-center gap-1.5 rounded px-1.5 text-left text-small hover:bg-wash"
              [class.bg-wash]="chosen().has(place.box.id)"
              [attr.aria-pressed]="chosen().has(place.box.id)"
              [attr.data-place]="place.box.id"
              (click)="click($event, place.box.id)"
              (keydown)="key($event, place.box.id)"
            >
              <sc-icon [name]="icons[place.box.kind]" [size]="14" class="shrink-0 text-slate" />
              <span class="sr-only">{{ words[place.box.kind] }}:</span>
              <bdi class="min-w-0 grow truncate" [class.font-semibold]="chosen().has(place.box.id)">
                {{ place.name }}
              </bdi>
              @if (place.box.part) {
                <span class="shrink-0 text-[12px] text-woad">if</span>
              }
              @if (place.fit; as fit) {
                <span
                  class="shrink-0 text-[12px]"
                  [class]="fit.bad ? 'font-semibold text-madder' : 'text-slate'"
                >
                  {{ fit.text }}
                </span>
              }
              @if (place.box.locked) {
                <sc-icon name="lucideLock" [size]="12" class="shrink-0 text-slate" />
              }
            </button>
            @if (uneven(place.box.id); as fits) {
              <sc-fit-bar class="mr-1.5 mb-1 ml-7" [fits]="fits" />
            }
          </li>
        } @empty {
          <li class="px-1.5 text-small text-slate">Nothing stands here yet. Put something in above.</li>
        }
      </ul>
    }
  `,
  host: { class: 'block max-h-56 overflow-y-auto', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlacesList {
  readonly template = input.required<Placed>();
  readonly picked = input.required<readonly string[]>();
  readonly nameOf = input.required<(box: PlacedBox) => string>();
  /** How the texts fit for everybody, by the box's identity. */
  readonly all = input<ReadonlyMap<string, Fits['boxes'][number]>>(new Map());
  /** How the texts fit for the picked learner. */
  readonly fits = input<readonly Fit[]>([]);
  readonly pick = output<readonly string[]>();
  readonly keyed = output<KeyboardEvent>();
  readonly opened = output<string>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly icons = BOX_ICONS;
  protected readonly words = BOX_WORDS;
  protected readonly chosen = computed(() => new Set(this.picked()));
  protected readonly pages = computed(() => {
    const { pages, boxes } = this.template();
    const fits = new Map(this.fits().map((fit) => [fit.box, fit]));
    const places = boxes.map((box, n): Place => ({
      box,
      name: this.nameOf()(box),
      fit: fitWords(fits.get(n), box),
    }));
    return pages.map((_, n) => ({ n, places: places.filter(({ box }) => box.page === n) }));
  });

  /** How it fits, where it does not fit everybody as it is set. */
  protected uneven(id: string): Fits['boxes'][number] | null {
    const fits = this.all().get(id);
    const { shrinks = [], long = [], letters = [], ...rest } = fits?.who ?? {};
    return fits && shrinks.length + long.length + letters.length + (rest['too-long']?.length ?? 0) > 0
      ? fits
      : null;
  }

  protected click(event: MouseEvent, id: string): void {
    if (event.shiftKey || event.ctrlKey || event.metaKey) this.toggle(id);
    else this.pick.emit([id]);
  }

  protected key(event: KeyboardEvent, id: string): void {
    if (event.key === 'Enter') {
      event.preventDefault();
      this.pick.emit([id]);
      this.opened.emit(id);
    } else if (event.key === ' ' && (event.ctrlKey || event.shiftKey)) {
      event.preventDefault();
      this.toggle(id);
    } else if (event.key.startsWith('Arrow')) {
      // Arrows go through the list here; on the paper they move boxes.
      const all = [...this.host.nativeElement.querySelectorAll<HTMLElement>('[data-place]')];
      const at = all.findIndex((one) => one.dataset['place'] === id);
      const next = all[at + (event.key === 'ArrowDown' || event.key === 'ArrowRight' ? 1 : -1)];
      event.preventDefault();
      next?.focus();
    } else {
      // What a key does is done to the place that it is pressed on.
      if (!this.chosen().has(id) && !MODIFIERS.has(event.key) && event.key !== 'Tab') this.pick.emit([id]);
      this.keyed.emit(event);
    }
  }

  private toggle(id: string): void {
    const had = this.picked();
    this.pick.emit(had.includes(id) ? had.filter((one) => one !== id) : [...had, id]);
  }
}

/** What is told of a fit beside a place; nothing where all is as it was set. */
function fitWords(fit: Fit | undefined, box: PlacedBox): Place['fit'] {
  switch (fit?.state) {
    case 'shrinks':
      return { text: `${(Math.round(fit.size * 10) / 10).toLocaleString()} pt`, bad: false };
    case 'goes-on':
      return { text: 'goes on', bad: false };
    case 'long':
      return { text: 'too long', bad: true };
    case 'too-long':
      return { text: 'too long for a code', bad: true };
    case 'letters':
      return { text: 'letters without a bar', bad: true };
    case 'blank':
      return box.kind === 'text' || box.kind === 'comb' || box.kind === 'code'
        ? { text: 'blank', bad: false }
        : null;
    default:
      return null;
  }
}
