import { Pipe, type PipeTransform } from '@angular/core';
import { say, type Saying } from '@scriptum/core/sentences';

/** Something that core says, in words. */
@Pipe({ name: 'scSaid' })
export class Said implements PipeTransform {
  transform(saying: Saying): string {
    return say(saying);
  }
}
