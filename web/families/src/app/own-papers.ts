import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { Answering } from './answering';

/** Milliseconds between two looks, at first and at last, and for how long it looks by itself. */
const SOON = 1_000;
const SELDOM = 10_000;
const LOOKS_FOR = 180_000;

/** The papers of whoever has answered, as soon as they are there. */
@Component({
  selector: 'sf-own-papers',
  template: `
    @if (papers().length > 0) {
      <ul class="own-papers">
        @for (paper of papers(); track paper.href) {
          <li>
            <a class="go" download [href]="paper.href">
              <bdi>{{ paper.name }}</bdi>
            </a>
          </li>
        }
      </ul>
    } @else {
      <p role="status">{{ words().paperWaits }}</p>
      @if (rests()) {
        <button type="button" class="plain" (click)="begin()">{{ words().paperLook }}</button>
      }
    }
    <p class="quiet">{{ words().paperLink }}</p>
    <p class="link">
      <a [href]="address()">{{ address() }}</a>
    </p>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OwnPapers {
  private readonly answering = inject(Answering);
  protected readonly words = this.answering.words;
  protected readonly papers = signal<readonly { name: string; href: string }[]>([]);
  /** True once it does not look by itself any more. */
  protected readonly rests = signal(false);
  protected readonly address = computed(() => {
    const [, token] = location.pathname.split('/').filter(Boolean);
    return `${location.origin}/f/${token}/paper/${this.answering.paperLink()}`;
  });
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
    this.begin();
  }

  protected begin(): void {
    this.rests.set(false);
    void this.look(performance.now() + LOOKS_FOR, SOON);
  }

  private async look(until: number, pause: number): Promise<void> {
    const link = this.answering.paperLink();
    const papers = link === null ? [] : await this.answering.papersOf(link);
    this.papers.set(papers);
    if (papers.length > 0) return;
    if (performance.now() > until) this.rests.set(true);
    else this.timer = setTimeout(() => void this.look(until, Math.min(pause * 1.5, SELDOM)), pause);
  }
}
