import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { wordsIn, type Form, type FormTerms, type Words } from '@scriptum/core/form';
import { Api, troubleOf } from '../../api/api';
import { languageName, PAPER_LANGUAGES } from '../../desk/paper-languages';
import { deskActions, deskFeature } from '../../state/desk';
import { writingActions } from '../../state/writing';
import { Entered } from '../../ui/bound';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { changeTerms, localMoment, termsSentence } from './terms-sentence';

/** The form as a whole: its words, its languages, and when and how often it is answered. */
@Component({
  selector: 'sc-form-margin',
  imports: [Entered, Icon, Sentence],
  templateUrl: './form-margin.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FormMargin {
  readonly form = input.required<Form>();
  readonly writingId = input.required<string>();
  readonly changed = output<Form>();

  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly languages = computed(() =>
    this.form().languages.map((tag, n) => ({ tag, name: languageName(tag), isFirst: n === 0 })),
  );
  protected readonly more = computed(() =>
    PAPER_LANGUAGES.filter(
      ([tag]) => !this.form().languages.some((one) => one.split('-')[0] === tag.split('-')[0]),
    ),
  );
  protected readonly texts = [
    { key: 'title', title: 'Title', long: false },
    { key: 'intro', title: 'Text above the questions', long: true },
    { key: 'thanks', title: 'What it says afterwards', long: true },
  ] as const;
  /** Columns of the roll that hold addresses, beside those of this form. */
  private readonly addresses = computed(() =>
    this.roll().columns.filter(({ type, sourceId }) => type === 'email' && sourceId !== this.writingId()),
  );
  /** What else is to be known where people take their paper along. */
  protected readonly paperSays = computed(() => {
    const { paper, who } = this.form().terms;
    if (!paper) return [];
    const joins = this.folio()?.sources.some(({ kind }) => kind === 'joined');
    return [
      'A paper is there once it is pressed, and cleared where the school wants that: by itself, with a standing order at the station Press.',
      ...(joins && who === 'anyone'
        ? [
            'Another sheet is joined to this roll. Whoever answers in the name of a learner also sees what that sheet says of them on the paper. Let each learner of the roll answer by a link of their own.',
          ]
        : []),
    ];
  });
  protected readonly pieces = computed(() => termsSentence(this.form(), this.addresses()));
  protected readonly moments = computed(() => {
    const { opens, closes } = this.form().terms;
    return { opens: opens && localMoment(opens), closes: closes && localMoment(closes) };
  });
  /** Words that are not translated yet, by language. */
  protected readonly missing = computed(() => {
    const { languages, items, title } = this.form();
    const [first, ...others] = languages as [string, ...string[]];
    const all: (Words | undefined)[] = [title, this.form().intro, this.form().thanks];
    for (const item of items) {
      if ('label' in item) all.push(item.label, item.help);
      if ('choices' in item) all.push(...item.choices.map(({ label }) => label));
      if (item.kind === 'grid') all.push(...item.rows.map(({ label }) => label));
      if (item.kind === 'section' || item.kind === 'page') all.push(item.title);
      if (item.kind === 'section' || item.kind === 'words') all.push(item.words);
    }
    return others.map((tag) => ({
      tag,
      name: languageName(tag),
      count: all.filter((words) => wordsIn(words, first, first) && !words?.[tag]?.trim()).length,
    }));
  });

  protected words(key: 'title' | 'intro' | 'thanks', language: string): string {
    return this.form()[key]?.[language] ?? '';
  }

  protected write(key: 'title' | 'intro' | 'thanks', language: string, text: string): void {
    this.changed.emit({ ...this.form(), [key]: { ...this.form()[key], [language]: text } });
  }

  protected rename(name: string): void {
    if (name.trim()) this.changed.emit({ ...this.form(), name: name.trim().slice(0, 200) });
  }

  protected speak(box: HTMLSelectElement): void {
    const tag = box.value;
    box.value = '';
    if (tag) this.changed.emit({ ...this.form(), languages: [...this.form().languages, tag] });
  }

  protected unspeak(tag: string): void {
    this.changed.emit({ ...this.form(), languages: this.form().languages.filter((one) => one !== tag) });
  }

  protected say(change: SentenceChange): void {
    this.changed.emit(changeTerms(this.form(), change));
  }

  protected setMoment(which: 'opens' | 'closes', local: string): void {
    const at = new Date(local);
    const terms: FormTerms = {
      ...this.form().terms,
      [which]: Number.isNaN(at.getTime()) ? null : at.toISOString(),
    };
    this.changed.emit({ ...this.form(), terms });
  }

  protected delete(): void {
    const folio = this.folio();
    if (!folio) return;
    this.store.dispatch(writingActions.flush());
    this.api.deleteWriting(folio.id, this.writingId()).subscribe({
      next: () => this.store.dispatch(deskActions.rollNews({ folioId: folio.id })),
      error: (error: unknown) => this.store.dispatch(deskActions.failed({ trouble: troubleOf(error) })),
    });
  }
}
