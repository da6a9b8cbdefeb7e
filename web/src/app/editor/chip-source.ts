import { drawChart } from '@scriptum/core/chart';
import { fillFields, type FillContext } from '@scriptum/core/fill';
import type { Entry } from '@scriptum/core/roll';
import { fieldLabel, isMatched, type Field, type SignOff } from '@scriptum/core/template';
import type { BlockFace, BlockFaces } from './field-block-node';
import type { ChipFace, ChipFaces } from './field-node';
import type { SignOffFaces } from './sign-off-node';

/** What chips and blocks are shown for. */
export interface ChipContext extends FillContext {
  readonly entry: Entry | undefined;
  /** Chips show the names of their fields instead of values. */
  readonly named?: boolean;
  /** Millimetres that the text is wide, for charts. */
  readonly width?: number;
  /** Where a picture of the folio is, by its identity. */
  readonly pictureUrl?: (asset: string) => string;
  /** Who signs. */
  readonly signOffs?: readonly SignOff[];
}

const NOBODY: ChipContext = { columns: [], language: 'en', day: '', entry: undefined };
/** Millimetres between the margins of a page of A4. */
const LINE = 160;

/** Keeps what the chips and blocks of one editor show in step with the picked learner. */
export class ChipSource implements ChipFaces, BlockFaces, SignOffFaces {
  private readonly listeners = new Set<() => void>();
  private fields: readonly Field[] = [];
  private context: ChipContext = NOBODY;
  private readonly blocks = new Map<string, BlockFace>();

  set(fields: readonly Field[], context: ChipContext): void {
    if (fields === this.fields && isSame(context, this.context)) return;
    this.fields = fields;
    this.context = context;
    this.blocks.clear();
    for (const listener of this.listeners) listener();
  }

  faceOf(fieldId: string): ChipFace {
    const { columns, entry, named } = this.context;
    const field = this.fields.find(({ id }) => id === fieldId);
    const label = fieldLabel(field, columns);
    if (named && field) return { label, value: label, state: 'filled' };
    if (!field || !isMatched(field)) return { label, value: '', state: 'unmatched' };
    if (!entry) return { label, value: label, state: 'filled' };
    const value = fillFields([field], entry, this.context)[fieldId]?.text ?? '';
    return { label, value, state: value ? 'filled' : 'empty' };
  }

  blockFaceOf(fieldId: string): BlockFace {
    let face = this.blocks.get(fieldId);
    if (!face) this.blocks.set(fieldId, (face = this.newBlockFace(fieldId)));
    return face;
  }

  signOffOf(signOffId: string): SignOff | null {
    return this.context.signOffs?.find(({ id }) => id === signOffId) ?? null;
  }

  onChange(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  private newBlockFace(fieldId: string): BlockFace {
    const { columns, entry, width = LINE, pictureUrl } = this.context;
    const field = this.fields.find(({ id }) => id === fieldId);
    const label = fieldLabel(field, columns);
    const bare = { label, table: null, drawing: null, picture: null };
    if (!field || !isMatched(field)) return { ...bare, state: 'unmatched' };
    const filled = entry && fillFields([field], entry, this.context)[fieldId];
    if (!filled?.text) return { ...bare, state: 'empty' };
    const drawn = filled.chart && {
      width: Math.min(field.chart?.width ?? width, width),
      height: field.chart?.height,
    };
    return {
      label,
      state: 'filled',
      table: field.table && filled.table ? { columns: field.table.columns, printed: filled.table } : null,
      picture:
        field.picture && filled.picture !== undefined
          ? { ...field.picture, url: pictureUrl?.(filled.picture) ?? '', alt: filled.text }
          : null,
      drawing: filled.chart && drawn ? drawChart(filled.chart, drawn) : null,
    };
  }
}

const isSame = (one: ChipContext, other: ChipContext): boolean =>
  (['columns', 'language', 'day', 'cohort', 'entry', 'named', 'width', 'signOffs'] as const).every(
    (name) => one[name] === other[name],
  );
