import { printable } from '@scriptum/core/fill';
import { valueOf, type Entry } from '@scriptum/core/roll';
import type { Column } from '@scriptum/core/table';
import { fieldLabel, type Field } from '@scriptum/core/template';
import type { ChipFace, ChipFaces } from './field-node';

/** Keeps what the chips of one editor show in step with the picked learner. */
export class ChipSource implements ChipFaces {
  private readonly listeners = new Set<() => void>();
  private fields: readonly Field[] = [];
  private columns: readonly Column[] = [];
  private entry: Entry | undefined;
  private named = false;

  set(fields: readonly Field[], columns: readonly Column[], entry: Entry | undefined, named = false): void {
    this.fields = fields;
    this.columns = columns;
    this.entry = entry;
    this.named = named;
    for (const listener of this.listeners) listener();
  }

  faceOf(fieldId: string): ChipFace {
    const field = this.fields.find(({ id }) => id === fieldId);
    const label = fieldLabel(field, this.columns);
    if (this.named && field) return { label, value: label, state: 'filled' };
    if (!field?.columnId) return { label, value: '', state: 'unmatched' };
    if (!this.entry) return { label, value: label, state: 'filled' };
    const value = printable(valueOf(this.entry, field.columnId));
    return { label, value, state: value ? 'filled' : 'empty' };
  }

  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
