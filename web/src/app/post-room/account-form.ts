import {
  ChangeDetectionStrategy,
  Component,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import type { MailAccount, MailSecurity } from '@scriptum/core/contract';
import { Api, troubleOf } from '../api/api';
import { Entered, Ticked } from '../ui/bound';
import { boxSecured, draftOf, emptyAccount, savedOf, secured, type AccountDraft } from './account-draft';

type Flag = 'own' | 'signed' | 'fetched';
type Text = Exclude<keyof AccountDraft, 'security' | 'boxSecurity' | Flag>;

/** A mail account, filled in. */
@Component({
  selector: 'sc-account-form',
  imports: [Entered, Ticked],
  templateUrl: './account-form.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AccountForm {
  /** Null for a new one. */
  readonly account = input.required<MailAccount | null>();
  /** One's own address, with which a new one begins. */
  readonly address = input.required<string>();
  readonly saved = output<MailAccount>();
  readonly left = output<void>();

  private readonly api = inject(Api);
  protected readonly draft = linkedSignal((): AccountDraft => {
    const account = this.account();
    return account ? draftOf(account) : emptyAccount(this.address());
  });
  protected readonly wrong = signal('');
  protected readonly busy = signal(false);

  protected set(part: Text, value: string): void {
    this.draft.update((draft) => ({ ...draft, [part]: value }));
  }

  protected tick(part: Flag, value: boolean): void {
    this.draft.update((draft) => ({
      ...draft,
      [part]: value,
      domain: part === 'signed' ? draft.domain || (draft.address.split('@')[1] ?? '') : draft.domain,
      // Most mailboxes lie where messages are handed over.
      boxHost: part === 'fetched' ? draft.boxHost || draft.host.replace(/^smtp\./, 'imap.') : draft.boxHost,
    }));
  }

  protected secureBox(value: string): void {
    this.draft.update((draft) => boxSecured(draft, value as MailSecurity));
  }

  protected secure(value: string): void {
    this.draft.update((draft) => secured(draft, value as MailSecurity));
  }

  protected save(): void {
    if (this.busy()) return;
    const account = this.account();
    const asked = savedOf(this.draft(), account);
    if (typeof asked === 'string') {
      this.wrong.set(asked);
      return;
    }
    this.busy.set(true);
    this.wrong.set('');
    const work = account ? this.api.saveMailAccount(account.id, asked) : this.api.addMailAccount(asked);
    work.subscribe({
      next: (saved) => {
        this.busy.set(false);
        this.saved.emit(saved);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.wrong.set(troubleOf(error).message);
      },
    });
  }
}
