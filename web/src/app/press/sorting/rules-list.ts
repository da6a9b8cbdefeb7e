import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Entry } from '@scriptum/core/roll';
import type { RuleCount } from '@scriptum/core/sorting';
import type { SortingRule } from '@scriptum/core/template';
import { deskActions } from '../../state/desk';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange } from '../../ui/sentence/sentence-piece';
import { changeRule, ruleSentence, type RuleSurroundings } from './sorting-sentence';

/** The rules in their order, as sentences, each with whom it takes now. */
@Component({
  selector: 'sc-rules-list',
  imports: [Icon, Sentence],
  template: `
    <ol class="flex flex-col" aria-label="Rules, the first that fits decides">
      @for (line of lines(); track line.rule.id; let at = $index; let last = $last) {
        <li
          class="flex items-start gap-2 border-b border-rule py-1.5 pr-3 pl-5"
          [class.bg-wash]="line.takesPicked"
        >
          <span class="w-5 shrink-0 pt-0.5 text-right text-slate tabular-nums">{{ at + 1 }}</span>
          <sc-sentence
            class="min-w-0 grow"
            [label]="'Rule ' + (at + 1)"
            [pieces]="line.pieces"
            (changed)="change(line.rule, $event)"
          />
          <span class="flex shrink-0 items-center gap-1 text-small">
            <button
              type="button"
              class="link min-h-6 px-1"
              [class.text-ochre]="line.taken.length === 0"
              (click)="show(at, line.taken)"
            >
              takes {{ line.taken.length }}
            </button>
            @if (line.overtaken.length > 0) {
              <button
                type="button"
                class="link min-h-6 px-1"
                title="Learners whom this rule fits too, and whom an earlier one takes"
                (click)="show(at, line.overtaken, true)"
              >
                {{ line.overtaken.length }} earlier
              </button>
            }
            <button
              type="button"
              class="tool"
              [disabled]="at === 0"
              [attr.aria-label]="'Move rule ' + (at + 1) + ' up'"
              title="Up"
              (click)="move(at, -1)"
            >
              <sc-icon name="lucideChevronUp" [size]="15" />
            </button>
            <button
              type="button"
              class="tool"
              [disabled]="last"
              [attr.aria-label]="'Move rule ' + (at + 1) + ' down'"
              title="Down"
              (click)="move(at, 1)"
            >
              <sc-icon name="lucideChevronDown" [size]="15" />
            </button>
            <button
              type="button"
              class="tool"
              [attr.aria-label]="'Take rule ' + (at + 1) + ' out'"
              title="Take it out"
              (click)="takeOut(at)"
            >
              <sc-icon name="lucideX" [size]="15" />
            </button>
          </span>
        </li>
      }
    </ol>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RulesList {
  readonly rules = input.required<readonly SortingRule[]>();
  readonly counts = input.required<readonly RuleCount[]>();
  readonly around = input.required<RuleSurroundings>();
  /** The picked learner's rules are marked. */
  readonly pickedId = input<string | null>(null);
  readonly changed = output<SortingRule[]>();

  private readonly store = inject(Store);
  protected readonly lines = computed(() =>
    this.rules().map((rule, at) => {
      const { entries = [], overtaken = [] } = this.counts()[at] ?? {};
      return {
        rule,
        pieces: ruleSentence(rule, this.around()),
        taken: entries,
        overtaken,
        takesPicked: entries.some(({ id }) => id === this.pickedId()),
      };
    }),
  );

  protected change(rule: SortingRule, change: SentenceChange): void {
    const around = this.around();
    this.changed.emit(this.rules().map((one) => (one === rule ? changeRule(rule, change, around) : one)));
  }

  protected move(at: number, step: 1 | -1): void {
    const rules = [...this.rules()];
    const [rule] = rules.splice(at, 1);
    rules.splice(at + step, 0, rule!);
    this.changed.emit(rules);
  }

  protected takeOut(at: number): void {
    this.changed.emit(this.rules().filter((_, n) => n !== at));
  }

  protected show(at: number, entries: readonly Entry[], overtaken = false): void {
    const label = overtaken ? `Rule ${at + 1} fits them too` : `Taken by rule ${at + 1}`;
    const entryIds = entries.map(({ id }) => id);
    this.store.dispatch(deskActions.showSome({ some: { label, entryIds } }));
  }
}
