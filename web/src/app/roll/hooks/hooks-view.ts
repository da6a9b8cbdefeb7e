import { Dialog } from '@angular/cdk/dialog';
import { DatePipe, DecimalPipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { HookLine } from '@scriptum/core/contract';
import { newId } from '../../api/new-id';
import { deskFeature } from '../../state/desk';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentencePiece } from '../../ui/sentence/sentence-piece';
import { Switch } from '../../ui/switch';
import { RollViews } from '../roll-views';
import { hooksActions, hooksFeature } from '../state/hooks';

/** Chosen for a column: the answer is left out. */
const OUT = '';

/** Where other services bring answers: their links and keys, and the column of each answer. */
@Component({
  selector: 'sc-hooks-view',
  imports: [DatePipe, DecimalPipe, Icon, RollViews, Sentence, Switch],
  templateUrl: './hooks-view.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HooksView {
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly state = this.store.selectSignal(hooksFeature.selectHooksState);
  protected readonly hooks = computed(() => this.state().hooks ?? []);
  /** What was copied a moment ago. */
  protected readonly copied = signal('');

  constructor() {
    const folioId = computed(() => this.folio()?.id);
    effect(() => {
      if (folioId()) untracked(() => this.store.dispatch(hooksActions.asked()));
    });
  }

  protected add(): void {
    const taken = new Set(this.hooks().map(({ name }) => name));
    let name = 'Form service';
    for (let n = 2; taken.has(name); n++) name = `Form service ${n}`;
    this.store.dispatch(hooksActions.add({ hookId: newId(), name }));
  }

  protected rename({ id, name }: HookLine, text: string): void {
    const trimmed = text.trim().slice(0, 200);
    if (trimmed && trimmed !== name)
      this.store.dispatch(hooksActions.change({ hookId: id, change: { name: trimmed } }));
  }

  protected switch({ id, isOn }: HookLine): void {
    this.store.dispatch(hooksActions.change({ hookId: id, change: { isOn: !isOn } }));
  }

  protected newKey({ id, name }: HookLine): void {
    this.confirm(
      {
        title: `Make a new key for “${name}”?`,
        text: 'The key that counts now counts for seven days more, so that the other service can be given the new one in peace.',
        yes: 'Make a new key',
      },
      () => this.store.dispatch(hooksActions.newKey({ hookId: id })),
    );
  }

  protected delete({ id, name }: HookLine): void {
    this.confirm(
      {
        title: `Delete “${name}”?`,
        text: 'Its link takes nothing any more. What came by it stays on the roll.',
        yes: 'Delete it',
        grave: true,
      },
      () => this.store.dispatch(hooksActions.delete({ hookId: id })),
    );
  }

  protected practise({ id }: HookLine): void {
    this.store.dispatch(hooksActions.practise({ hookId: id }));
  }

  protected noted(): void {
    this.store.dispatch(hooksActions.keyNoted());
  }

  protected pieces(key: string, columnId: string | null): SentencePiece[] {
    const { columns } = this.roll();
    const title = columns.find(({ id }) => id === columnId)?.title;
    return [
      `“${key}” `,
      {
        id: 'column',
        label: 'the column that it goes into',
        text:
          columnId === null
            ? 'is left out'
            : title === undefined
              ? 'makes a new column'
              : `goes into ${title}`,
        value: columnId ?? OUT,
        options: [
          ...columns
            .filter(({ worked }) => !worked)
            .map((column) => ({ value: column.id, label: `goes into ${column.title}` })),
          { value: OUT, label: 'is left out', hint: 'it is kept with the answer even so' },
        ],
      },
    ];
  }

  protected put({ id }: HookLine, key: string, columnId: string): void {
    this.store.dispatch(
      hooksActions.change({ hookId: id, change: { field: { key, columnId: columnId || null } } }),
    );
  }

  protected async copy(text: string): Promise<void> {
    try {
      await navigator.clipboard.writeText(text);
      this.copied.set(text);
      setTimeout(() => this.copied.set(''), 2500);
    } catch {
      // It stands beside the button, to be copied by hand.
    }
  }

  /** How a request is signed and sent, for a shell. */
  protected example({ link }: HookLine): string {
    return [
      `body='{"First name": "Ada", "Clubs": ["Chess", "Choir"]}'`,
      `time=$(date +%s)`,
      `signature=$(printf '%s.%s' "$time" "$body" | openssl dgst -sha256 -hmac "$key" -r | cut -d' ' -f1)`,
      `curl ${link} \\`,
      `  -H 'Content-Type: application/json' \\`,
      `  -H "Scriptum-Time: $time" -H "Scriptum-Signature: $signature" \\`,
      `  --data "$body"`,
    ].join('\n');
  }

  private confirm(data: Confirmation, then: () => void): void {
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) then();
      });
  }
}
