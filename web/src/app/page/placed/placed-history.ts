import { Injectable } from '@angular/core';
import type { Placed } from '@scriptum/core/template';
import { StepHistory } from '../../state/step-history';

/** What was done on pages with boxes. */
@Injectable({ providedIn: 'root' })
export class PlacedHistory extends StepHistory<Placed> {}
