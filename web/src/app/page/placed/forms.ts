import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Blank } from '@scriptum/core/blanks';
import type { Rect } from '@scriptum/core/placing';
import type { GroundAbout, Placed, TextBox } from '@scriptum/core/template';
import { Api } from '../../api/api';
import { deskFeature } from '../../state/desk';

/** What is known of each PDF that lies under pages, by its identity; read once. */
@Injectable()
export class Forms {
  private readonly api = inject(Api);
  private readonly folio = inject(Store).selectSignal(deskFeature.selectFolio);
  private readonly known = signal<ReadonlyMap<string, GroundAbout>>(new Map());
  private readonly asked = new Set<string>();
  private readonly wanted = signal<readonly string[]>([]);
  readonly about = this.known.asReadonly();
  /** The blanks of their pages. */
  readonly blanks = computed(
    () => new Map([...this.known()].map(([asset, { blanks }]) => [asset, blanks ?? []] as const)),
  );

  constructor() {
    effect(() => {
      const [folio, wanted] = [this.folio(), this.wanted()];
      if (folio) untracked(() => wanted.forEach((asset) => this.read(folio.id, asset)));
    });
  }

  /** Reads those of the PDFs that are not known yet. What cannot be read just now is asked for the next time. */
  want(assets: readonly string[]): void {
    this.wanted.set(assets);
  }

  private read(folioId: string, asset: string): void {
    if (this.asked.has(asset)) return;
    this.asked.add(asset);
    this.api.ground(folioId, asset).subscribe({
      next: ({ about }) => this.known.update((known) => new Map(known).set(asset, about)),
      error: () => this.asked.delete(asset),
    });
  }
}

/** The identities of the PDFs under a template's pages. */
export const groundsOf = ({ pages }: Pick<Placed, 'pages'>): string[] => [
  ...new Set(pages.flatMap(({ ground }) => ground?.asset ?? [])),
];

/** What is to be filled in on a page of the form below, as far as it was found. */
export const printedOn = (
  { pages }: Pick<Placed, 'pages'>,
  page: number,
  blanks: ReadonlyMap<string, readonly (readonly Blank[])[]>,
): readonly Blank[] => {
  const ground = pages[page]?.ground;
  return (ground && blanks.get(ground.asset)?.[ground.page]) ?? [];
};

/** Millimetres below the upper edge of a place at which its first line stands at the least. */
const LEAST = 2;

/** The lines of a form that run through a place: how far below its upper edge the first is, and how far they are apart. */
export function linesThrough(
  { x, y, width, height }: Rect,
  blanks: readonly Blank[],
): NonNullable<TextBox['baseline']> | null {
  const lines = blanks
    .filter(({ baseline, ...blank }) => baseline && blank.x < x + width && x < blank.x + blank.width)
    .flatMap(({ baseline, ...blank }) => {
      const { first, pitch } = baseline!;
      const count = pitch ? Math.max(1, Math.floor((blank.height - first) / pitch + 1.01)) : 1;
      return Array.from({ length: count }, (_, n) => blank.y + first + n * (pitch ?? 0) - y);
    })
    .filter((line) => line >= LEAST && line <= height + 0.5)
    .sort((a, b) => a - b);
  const [first, second] = lines;
  if (first === undefined) return null;
  const tidy = (mm: number): number => Math.round(mm * 100) / 100;
  return second !== undefined && second - first >= 1
    ? { first: tidy(first), pitch: tidy(second - first) }
    : { first: tidy(first) };
}
