import { Injectable } from '@angular/core';
import type { Form } from '@scriptum/core/form';
import { StepHistory } from '../../state/step-history';

/** What was done to forms. */
@Injectable({ providedIn: 'root' })
export class FormsHistory extends StepHistory<Form> {}
