import { DatePipe, DecimalPipe } from '@angular/common';
import { Dialog } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Earlier, Source } from '@scriptum/core/contract';
import { bringingInActions } from '../state/bringing-in';
import { deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { writingFeature } from '../../state/writing';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { PicturesDialog } from '../pictures/pictures-dialog';
import { FILE_KINDS } from '../../ui/sheet-drop';
import { KeyProposal } from '../key-proposal';

/** Where the roll's columns come from, and how more come in. */
@Component({
  selector: 'sc-sources-panel',
  imports: [DatePipe, DecimalPipe, KeyProposal, RouterLink],
  templateUrl: './sources-panel.html',
  host: { class: 'block' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SourcesPanel {
  readonly chosen = output<File>();

  private readonly store = inject(Store);
  private readonly dialog = inject(Dialog);
  protected readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  protected readonly kinds = FILE_KINDS;
  private readonly written = this.store.selectSignal(writingFeature.selectForms);
  /** Forms whose answers come in, with how many of them are on the roll. */
  protected readonly forms = computed(() =>
    this.written().map(({ id, content }) => {
      const { entries, columns } = this.roll();
      // Answers in learners' own rows are told by their cells.
      const own =
        content.terms.who === 'roll'
          ? columns.filter(({ sourceId }) => sourceId === id).map((one) => one.id)
          : [];
      const answers = entries.filter(
        ({ answered, values }) => answered === id || own.some((columnId) => values[columnId]),
      );
      return { id, name: content.name, answers: answers.length };
    }),
  );
  protected readonly sources = computed(() => this.folio()?.sources ?? []);
  protected readonly key = computed(() =>
    this.roll()
      .columns.filter(({ id }) => this.roll().key?.includes(id))
      .map(({ title }) => title)
      .join(' + '),
  );

  protected newer(source: Source, file: File): void {
    this.store.dispatch(
      bringingInActions.fileChosen({
        file,
        purpose: { kind: 'refresh', sourceId: source.id },
      }),
    );
  }

  protected join(file: File): void {
    this.store.dispatch(bringingInActions.fileChosen({ file, purpose: { kind: 'join' } }));
  }

  protected bringPictures(): void {
    this.dialog.open(PicturesDialog, { ariaLabelledBy: 'pictures-title' });
  }

  protected readAgain(source: Source): void {
    this.store.dispatch(
      bringingInActions.readSourceAgain({
        sourceId: source.id,
        fileName: source.fileName,
        asked: source.reading,
      }),
    );
  }

  protected takeOut(source: Source): void {
    const columns = this.roll().columns.filter(({ sourceId }) => sourceId === source.id);
    this.confirm(
      {
        title: `Take “${source.fileName}” out of the roll?`,
        text: `${columns.length === 0 ? 'Its rows go' : `Its ${columns.length === 1 ? 'column goes' : `${columns.length} columns go`}`}: ${columns.map(({ title }) => title).join(', ') || 'the small tables of the entries'}. You can have the roll back as it was.`,
        yes: 'Take it out',
        grave: true,
      },
      () => this.store.dispatch(rollActions.takeOut({ sourceId: source.id })),
    );
  }

  protected goBack(earlier: Earlier): void {
    const back = (): void => this.store.dispatch(rollActions.goBack({ earlierId: earlier.id }));
    if (!earlier.changedSince) {
      back();
      return;
    }
    this.confirm(
      {
        title: `Take back ${earlier.what}?`,
        text: 'The roll was changed since. Those changes are taken back as well, and cannot be had again.',
        yes: 'Take back',
        grave: true,
      },
      back,
    );
  }

  private confirm(data: Confirmation, then: () => void): void {
    this.dialog
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) then();
      });
  }
}
