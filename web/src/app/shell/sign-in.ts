import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import { sessionActions, sessionFeature } from '../state/session';
import { TroubleBar } from '../ui/trouble-bar';
import { ThemeChoice } from '../ui/theme';

@Component({
  selector: 'sc-sign-in',
  imports: [FormsModule, TroubleBar],
  templateUrl: './sign-in.html',
  host: { class: 'grid min-h-screen place-items-center p-6' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignInPage {
  /** Where the person was going. */
  readonly back = input<string>();

  private readonly store = inject(Store);
  protected readonly theme = inject(ThemeChoice);
  protected readonly session = this.store.selectSignal(sessionFeature.selectSessionState);
  protected readonly email = signal('');
  protected readonly password = signal('');

  constructor() {
    this.store.dispatch(sessionActions.asked());
  }

  protected signIn(): void {
    // Only a path of our own: an address elsewhere would lead people away.
    const back = this.back()?.startsWith('/') && !this.back()!.startsWith('//') ? this.back()! : '/';
    this.store.dispatch(sessionActions.signIn({ email: this.email(), password: this.password(), back }));
  }

  protected fillDemo(demo: { email: string; password: string }): void {
    this.email.set(demo.email);
    this.password.set(demo.password);
  }
}
