import { fillFields, type FillContext } from '@scriptum/core/fill';
import type { Entry } from '@scriptum/core/roll';
import { fieldLabel, isMatched, type Field } from '@scriptum/core/template';
import type { ChipFace, ChipFaces } from './field-node';

/** Keeps what the chips of one editor show in step with the picked learner. */
export class ChipSource implements ChipFaces {
  private readonly listeners = new Set<() => void>();
  private fields: readonly Field[] = [];
  private context: FillContext = { columns: [], language: 'en', day: '' };
  private entry: Entry | undefined;
  private named = false;

  set(fields: readonly Field[], context: FillContext, entry: Entry | undefined, named = false): void {
    this.fields = fields;
    this.context = context;
    this.entry = entry;
    this.named = named;
    for (const listener of this.listeners) listener();
  }

  faceOf(fieldId: string): ChipFace {
    const field = this.fields.find(({ id }) => id === fieldId);
    const label = fieldLabel(field, this.context.columns);
    if (this.named && field) return { label, value: label, state: 'filled' };
    if (!field || !isMatched(field)) return { label, value: '', state: 'unmatched' };
    if (!this.entry) return { label, value: label, state: 'filled' };
    const value = fillFields([field], this.entry, this.context)[fieldId]?.text ?? '';
    return { label, value, state: value ? 'filled' : 'empty' };
  }

  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
