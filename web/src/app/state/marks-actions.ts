import type { Finding } from '@scriptum/core/preflight';
import { createActionGroup, props } from '@ngrx/store';
import type { WorkedTexts } from './worked-cells';

export const marksActions = createActionGroup({
  source: 'Marks',
  events: {
    /** New texts of worked columns, at the places of these entries; `anew` where they are all there are. */
    'Worked Out': props<{ texts: readonly WorkedTexts[]; entryIds: readonly string[]; anew: boolean }>(),
    'Findings Arrived': props<{ findings: readonly Finding[] }>(),
  },
});
