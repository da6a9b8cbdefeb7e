import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Finding } from '@scriptum/core/preflight';
import { deskActions, deskFeature } from '../state/desk';
import { writingActions } from '../state/writing';

/** Where a finding can be mended, as it is said. */
const WHERE: Readonly<Record<Finding['place'], { readonly path: string; readonly name: string }>> = {
  roll: { path: 'roll', name: 'Mend it in the roll' },
  letter: { path: 'page', name: 'Mend it on the page' },
  note: { path: 'note', name: 'Mend it in the note' },
  filing: { path: 'press/names', name: 'Mend it at the file names' },
  sorting: { path: 'press', name: 'Mend it in the rules' },
  register: { path: 'register', name: 'See them in the register' },
};

/** Findings whose cells are to be mended, wherever they print. */
const OF_CELLS: ReadonlySet<string> = new Set([
  'field-empty',
  'field-holds',
  'letters-missing',
  'word-long',
  'address-none',
  'address-none-of',
  'address-wrong',
  'address-shared',
  'papers-equal',
]);

/** Takes people to where a finding can be mended. */
@Injectable({ providedIn: 'root' })
export class Mend {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);

  nameOf(finding: Finding): string {
    return this.whereOf(finding).name;
  }

  /** @param entryId whose it is to be looked at first; the first one where nobody is named. */
  go(finding: Finding, entryId: string | null = finding.entryIds[0] ?? null): void {
    if (entryId) this.store.dispatch(deskActions.pick({ entryId }));
    const { path } = this.whereOf(finding);
    if (path === 'page' && finding.templateId)
      this.store.dispatch(writingActions.pickTemplate({ id: finding.templateId }));
    if (path === 'note' && finding.noteId)
      this.store.dispatch(writingActions.pickNote({ id: finding.noteId }));
    void this.router.navigateByUrl(`/folio/${this.folio()?.id}/${path}`);
  }

  private whereOf({ code, place }: Finding) {
    return OF_CELLS.has(code) ? WHERE.roll : WHERE[place];
  }
}
