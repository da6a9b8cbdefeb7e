import type { Folio, PictureAsset } from '@scriptum/core/contract';
import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Trouble } from '../api/api';

/** Which entries the strip shows. */
export type StripFilter = 'all' | 'ready' | 'look' | 'out' | 'some';

/** Some entries, and what they have in common. */
export interface SomeEntries {
  readonly label: string;
  readonly entryIds: readonly string[];
}

export const deskActions = createActionGroup({
  source: 'Desk',
  events: {
    Opened: props<{ folioId: string }>(),
    Closed: emptyProps(),
    'Folio Arrived': props<{ folio: Folio }>(),
    Missing: props<{ trouble: Trouble }>(),
    Pick: props<{ entryId: string }>(),
    'Pick Next': props<{ step: 1 | -1 }>(),
    Filter: props<{ filter: Exclude<StripFilter, 'some'> }>(),
    'Show Some': props<{ some: SomeEntries }>(),
    Find: props<{ find: string }>(),
    /** The roll as it is now may be looked through; nobody waits for a cell to show any more. */
    'Roll Settled': emptyProps(),
    'Roll Arrived': props<{ folio: Folio }>(),
    /** Another window, or another person, changed the roll, or one of the texts. */
    'Roll News': props<{ folioId: string }>(),
    'Writing News': props<{ folioId: string; writingId: string }>(),
    'Picture Added': props<{ picture: PictureAsset }>(),
    Failed: props<{ trouble: Trouble }>(),
    'Trouble Seen': emptyProps(),
  },
});
