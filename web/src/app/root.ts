import { OutageBar } from './ui/outage-bar';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';

@Component({
  selector: 'sc-root',
  imports: [RouterOutlet, OutageBar],
  template: '<router-outlet /><sc-outage-bar />',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Root {}
