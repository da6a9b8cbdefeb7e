import type { Finding } from '@scriptum/core/preflight';
import { createActionGroup, props } from '@ngrx/store';
import type { WorkedTexts } from '../roll/thread/marks-desk';

export const marksActions = createActionGroup({
  source: 'Marks',
  events: {
    /** New texts of worked columns. `entryIds` says whose places they are, where everything was worked out anew. */
    'Worked Out': props<{ texts: readonly WorkedTexts[]; entryIds: readonly string[] | null }>(),
    'Findings Arrived': props<{ findings: readonly Finding[] }>(),
  },
});
