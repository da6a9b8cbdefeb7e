import { DatePipe, DecimalPipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { marksOf, type Finding } from '@scriptum/core/preflight';
import { presentRoll } from '@scriptum/core/roll';
import { phrase } from '@scriptum/core/sentences';
import { Mend } from '../desk/mend';
import { checksActions, checksFeature } from '../state/checks';
import { deskActions, deskFeature } from '../state/desk';
import { selectCounts, selectFindings, selectSeenFindings } from '../state/findings';
import { Icon } from '../ui/icon';
import { PressViews } from './press-views';

/** Findings of one kind. */
interface Kind {
  readonly code: string;
  readonly title: string;
  readonly severity: Finding['severity'];
  readonly blocks: string;
  readonly findings: readonly Line[];
  /** Learners, each once; 0 where it is about all. */
  readonly people: number;
}

interface Line {
  readonly key: string;
  readonly finding: Finding;
  readonly mend: string;
  readonly names: readonly { readonly id: string; readonly name: string }[];
  readonly more: number;
}

/** Names of one finding that are told. */
const NAMES_TOLD = 12;

/** What preflight found, over everybody: by kind, each opening into names; and what somebody has found right. */
@Component({
  selector: 'sc-checks-view',
  imports: [DatePipe, DecimalPipe, Icon, PressViews],
  templateUrl: './checks-view.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChecksView {
  private readonly store = inject(Store);
  protected readonly mend = inject(Mend);
  private readonly findings = this.store.selectSignal(selectFindings);
  private readonly seenFindings = this.store.selectSignal(selectSeenFindings);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  protected readonly counts = this.store.selectSignal(selectCounts);
  protected readonly state = this.store.selectSignal(checksFeature.selectChecksState);

  protected readonly kinds = computed((): Kind[] => {
    const kinds = new Map<string, Finding[]>();
    for (const finding of this.findings()) {
      const key = `${finding.code} ${finding.blocks ?? ''}`;
      kinds.set(key, [...(kinds.get(key) ?? []), finding]);
    }
    const list = [...kinds.values()].map((findings): Kind => {
      const [{ code, severity, blocks }] = findings as [Finding, ...Finding[]];
      return {
        code,
        title: phrase('finding-kind', { code }),
        severity,
        blocks: blocks === 'press' ? 'Blocks the press' : blocks === 'dispatch' ? 'Blocks the dispatch' : '',
        findings: findings.map((finding, n) => this.line(finding, n)),
        people: new Set(findings.flatMap(({ entryIds }) => entryIds)).size,
      };
    });
    return list.sort(
      (a, b) => Number(a.severity === 'look') - Number(b.severity === 'look') || b.people - a.people,
    );
  });
  protected readonly seen = computed(() => {
    const who = new Map(this.state().seen.map((one) => [one.mark, one]));
    return this.seenFindings().map(({ finding, marks }, n) => ({
      ...this.line(finding, n),
      marks,
      by: who.get(marks[0]!)?.by ?? null,
      at: who.get(marks[0]!)?.at ?? null,
    }));
  });
  protected readonly progress = computed(() => {
    const { checks } = this.state();
    return checks && checks.total > 0 ? checks : null;
  });

  protected right(findings: readonly Line[]): void {
    const roll = presentRoll(this.roll());
    const marks = findings.flatMap(({ finding }) => marksOf(finding, roll));
    if (marks.length > 0) this.store.dispatch(checksActions.see({ marks, right: true }));
  }

  protected notRight(marks: readonly string[]): void {
    this.store.dispatch(checksActions.see({ marks: [...marks], right: false }));
  }

  protected show({ title, findings }: Kind): void {
    const entryIds = [...new Set(findings.flatMap(({ finding }) => finding.entryIds))];
    this.store.dispatch(deskActions.showSome({ some: { label: title, entryIds } }));
  }

  private line(finding: Finding, n: number): Line {
    const names = finding.entryIds
      .slice(0, NAMES_TOLD)
      .map((id) => ({ id, name: this.names().get(id) || 'no name' }));
    return {
      key: `${n} ${finding.message}`,
      finding,
      mend: this.mend.nameOf(finding),
      names,
      more: finding.entryIds.length - names.length,
    };
  }
}
