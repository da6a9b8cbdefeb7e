import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
} from '@angular/core';
import type { OpenedForm } from '@scriptum/core/contract';
import { Answering } from './answering';
import { OwnPapers } from './own-papers';
import { Question } from './questions/question';
import { directionOf } from './words';

/** A form as a family or a learner answers it. */
@Component({
  selector: 'sf-form-page',
  imports: [NgTemplateOutlet, OwnPapers, Question],
  providers: [Answering],
  templateUrl: './form-page.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormPage {
  protected readonly answering = inject(Answering);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly words = this.answering.words;
  protected readonly form = this.answering.form;
  protected readonly stage = this.answering.stage;
  protected readonly school = this.answering.school;
  protected readonly title = computed(() => this.answering.say(this.form().title));
  protected readonly intro = computed(() => this.answering.say(this.form().intro));
  protected readonly languages = computed(() =>
    this.form().languages.map((tag, _, all) => {
      const [plain = tag] = tag.split('-');
      const isOnly = all.filter((one) => one.split('-')[0] === plain).length === 1;
      return { tag, name: nameOf(isOnly ? plain : tag) };
    }),
  );
  protected readonly pageTitle = computed(() => {
    const { id } = this.answering.page();
    const item = this.form().items.find((one) => one.id === id);
    return item?.kind === 'page' ? this.answering.say(item.title) : '';
  });
  /** Why the form takes no answers. */
  protected readonly closed = computed(() => {
    const at = this.answering.opensAt();
    const when = at ? this.moment(at) : '';
    switch (this.answering.state()) {
      case 'not yet':
        return this.words().notYet(when);
      case 'over':
        return this.words().over;
      case 'full':
        return this.words().full;
      case 'answered':
        return this.words().answered;
      case 'staff':
        return this.words().staff;
      default:
        return this.answering.notice() ? this.words().trouble : this.words().closed;
    }
  });
  protected readonly thanks = computed(() => this.answering.say(this.form().thanks) || this.words().thanks);
  protected readonly arrived = computed(() => {
    const kept = this.answering.kept();
    return kept ? this.words().arrived(this.moment(kept.receivedAt)) : '';
  });
  /** What whoever answered can still do about it. */
  protected readonly isOwn = computed(() => this.answering.about() !== '');
  protected readonly about = computed(() => (this.isOwn() ? this.words().about(this.answering.about()) : ''));
  protected readonly mayChange = computed(() => this.isOwn() && this.form().terms.mayChange);
  protected readonly editLink = computed(() => {
    const kept = this.answering.kept();
    const [, token] = location.pathname.split('/').filter(Boolean);
    return kept?.editLink ? `${location.origin}/f/${token}/change/${kept.editLink}` : '';
  });
  protected readonly notice = computed(() => {
    const says = this.answering.notice();
    return says ? (this.words()[says] as string) : '';
  });
  protected readonly sureToClear = signal(false);

  constructor() {
    if (location.pathname === '/f/draft') this.hearDrafts();
    else void this.answering.open(location.pathname, new URLSearchParams(location.search));
    effect(() => {
      document.documentElement.lang = this.answering.language();
      document.documentElement.dir = directionOf(this.answering.language());
      document.title = this.title() || this.school().name || 'Form';
    });
    effect(() => document.documentElement.style.setProperty('--school', this.school().colour));
    this.tellHeight();
  }

  protected async forward(): Promise<void> {
    const { answering } = this;
    if (!answering.isLast()) {
      if (answering.next()) this.toTop();
      else this.toProblem();
      return;
    }
    await answering.send();
    if (answering.problems().length > 0) this.toProblem();
    else if (answering.stage() === 'sent') this.toTop();
  }

  protected back(): void {
    this.answering.back();
    this.toTop();
  }

  protected async again(): Promise<void> {
    await this.answering.another();
    this.toTop();
  }

  protected async enter(event: Event): Promise<void> {
    event.preventDefault();
    const box = (event.target as HTMLFormElement).querySelector('input')!;
    await this.answering.enter(box.value);
    if (this.stage() === 'code') box.focus();
    else this.toTop();
  }

  protected clear(): void {
    this.sureToClear.set(false);
    this.answering.anew();
    this.toTop();
  }

  protected speak(event: Event): void {
    this.answering.speak((event.target as HTMLSelectElement).value);
  }

  private moment(iso: string): string {
    return new Intl.DateTimeFormat(this.answering.language(), {
      dateStyle: 'long',
      timeStyle: 'short',
    }).format(new Date(iso));
  }

  /** What is new on screen is read out from its head. */
  private toTop(): void {
    setTimeout(() => {
      const head = this.host.nativeElement.querySelector<HTMLElement>('[data-head]');
      head?.focus({ preventScroll: true });
      scrollTo({ top: 0 });
    });
  }

  private toProblem(): void {
    setTimeout(() => {
      const wrong = this.host.nativeElement.querySelector<HTMLElement>(
        '[aria-invalid="true"], [data-wrong] input, [data-wrong] button, [data-wrong] select',
      );
      wrong?.focus();
      wrong?.scrollIntoView({ block: 'center' });
    });
  }

  /** At the desk the form is shown as it is being written. */
  private hearDrafts(): void {
    addEventListener('message', (event: MessageEvent<{ draft?: OpenedForm }>) => {
      if (event.origin === location.origin && event.source === parent && event.data.draft)
        this.answering.preview(event.data.draft);
    });
    parent.postMessage({ form: 'ready' }, location.origin);
  }

  /** A page that the form stands in gives it the room that it takes. */
  private tellHeight(): void {
    if (parent === window) return;
    new ResizeObserver(() => {
      parent.postMessage({ formHeight: document.documentElement.scrollHeight }, '*');
    }).observe(document.body);
  }
}

/** A language by its own name (CLDR). */
function nameOf(tag: string): string {
  const name = new Intl.DisplayNames([tag], { type: 'language', languageDisplay: 'standard' }).of(tag) ?? tag;
  return name.charAt(0).toLocaleUpperCase(tag) + name.slice(1);
}
