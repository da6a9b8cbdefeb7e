import { Injectable } from '@angular/core';
import type { Sorting } from '@scriptum/core/template';
import { StepHistory } from '../../state/step-history';

/** What was done to rules of sorting. */
@Injectable({ providedIn: 'root' })
export class SortingHistory extends StepHistory<Sorting> {}
