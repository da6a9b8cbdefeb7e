import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { sessionFeature } from '../state/session';
import { Icon } from './icon';

/** Says plainly what the school's mail leaves through: whether it leaves at all. */
@Component({
  selector: 'sc-post-banner',
  imports: [Icon, RouterLink],
  template: `
    @if (says(); as line) {
      <sc-icon [name]="line.icon" [size]="16" class="shrink-0" />
      <p class="min-w-0 grow [overflow-wrap:anywhere]">
        <strong class="font-semibold">{{ line.strong }}</strong>
        {{ line.text }}
      </p>
      <a class="link inline-flex min-h-6 shrink-0 items-center" routerLink="/post-room/accounts">Change</a>
    }
  `,
  host: {
    role: 'region',
    'aria-label': 'What mail leaves through',
    class: 'flex items-center gap-2 px-5 py-1.5 text-small',
    '[class]': 'tone()',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PostBanner {
  private readonly me = inject(Store).selectSignal(sessionFeature.selectMe);
  protected readonly practice = computed(() => this.me()?.post?.kind === 'practice');
  protected readonly tone = computed(() =>
    this.practice() ? 'bg-wash text-ink' : 'border-l-[3px] border-ochre bg-leaf text-ink',
  );
  protected readonly says = computed(() => {
    const post = this.me()?.post;
    if (!post) return null;
    return post.kind === 'practice'
      ? {
          icon: 'lucideMailOpen' as const,
          strong: 'The practice post is on:',
          text: 'nothing leaves this machine.',
        }
      : {
          icon: 'lucideMail' as const,
          strong: 'Mail leaves for good,',
          text: `through “${post.name}”.`,
        };
  });
}
