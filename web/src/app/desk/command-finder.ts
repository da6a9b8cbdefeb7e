import { DIALOG_DATA, DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { deskActions, deskFeature } from '../state/desk';
import { foliosActions, foliosFeature } from '../state/folios';
import { writingActions, writingFeature } from '../state/writing';
import { Picking, PickList } from '../ui/pick-list';
import type { SentenceOption } from '../ui/sentence/sentence-piece';
import { ThemeChoice } from '../ui/theme';

/** A line of the finder, and what it does. */
interface Command extends SentenceOption {
  readonly run: () => void;
}

/** As many lines are shown. */
const SHOWN = 40;

export interface FinderData {
  readonly stations: readonly { readonly path: string; readonly name: string }[];
  readonly showShortcuts: () => void;
}

/** Finds what there is by its name: stations and what else can be done, learners, letters, other folios. */
@Component({
  selector: 'sc-command-finder',
  imports: [PickList],
  template: `
    <h2 id="finder-title" class="sr-only">Find</h2>
    <sc-pick-list
      [picking]="picking"
      label="A command, learner, letter or folio"
      listLabel="What was found"
      none="Nothing here is called that."
      (taken)="run($event.value)"
      (left)="dialog.close()"
    />
  `,
  host: { class: 'panel block w-[440px] max-w-[95vw] p-3' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CommandFinder {
  protected readonly dialog = inject(DialogRef);
  private readonly data = inject<FinderData>(DIALOG_DATA);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly theme = inject(ThemeChoice);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly names = this.store.selectSignal(deskFeature.selectNames);
  private readonly letters = this.store.selectSignal(writingFeature.selectAllTemplates);
  private readonly folios = this.store.selectSignal(foliosFeature.selectAll);

  private readonly actions = computed((): Command[] => [
    ...this.data.stations.map(({ path, name }) => this.command(`To ${name}`, 'Station', () => this.go(path))),
    ...(this.letters().length > 1 ? this.letters() : []).map(({ id, content }) =>
      this.command(`Write on ${content.name}`, 'Letter', () => {
        this.store.dispatch(writingActions.pickTemplate({ id }));
        this.go('page');
      }),
    ),
    this.command('Letterhead', 'How all papers of the school look', () => this.visit('/letterhead')),
    this.command('All folios', 'Of the school', () => this.visit('/')),
    this.command(this.theme.theme() === 'dark' ? 'Light theme' : 'Dark theme', 'Of the screen', () =>
      this.theme.toggle(),
    ),
    this.command('Keyboard shortcuts', 'What keys do', this.data.showShortcuts),
  ]);
  private readonly people = computed((): Command[] =>
    [...this.names()].map(([entryId, name]) => ({
      ...this.command(name, 'Learner', () => this.store.dispatch(deskActions.pick({ entryId }))),
      // Two learners may have one name.
      value: entryId,
    })),
  );
  private readonly others = computed((): Command[] =>
    this.folios()
      .filter(({ id }) => id !== this.folio()?.id)
      .map(({ id, title }) => ({
        ...this.command(title, 'Folio', () => this.visit(`/folio/${id}`)),
        value: `folio ${id}`,
      })),
  );
  // Nobody looks for a name in a list of all of them without typing.
  private readonly commands = computed((): Command[] =>
    this.picking.typed().trim() === ''
      ? this.actions()
      : [...this.actions(), ...this.people(), ...this.others()],
  );
  protected readonly picking: Picking = new Picking('finder', () => this.commands(), SHOWN);

  constructor() {
    this.store.dispatch(foliosActions.asked());
  }

  protected run(value: string): void {
    const command = this.commands().find((one) => one.value === value);
    // The dialog gives the focus back before the command takes it elsewhere.
    this.dialog.close();
    command?.run();
  }

  private command(label: string, hint: string, run: () => void): Command {
    return { value: `${hint} ${label}`, label, hint, run };
  }

  private go(station: string): void {
    this.visit(`/folio/${this.folio()?.id}/${station}`);
  }

  private visit(address: string): void {
    void this.router.navigateByUrl(address);
  }
}
