import type { JoinSpec } from '@scriptum/core/sources';
import type { SourceCell } from '@scriptum/core/roll';
import type { Column as RollColumn } from '@scriptum/core/column';
import type { Reading, SheetNote } from '@scriptum/core/table';
import type { GroundAbout } from '@scriptum/core/template';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** One occasion's paperwork. */
@Entity('folio')
export class FolioRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @Column({ type: 'varchar', length: 200 }) title!: string;
  @JsonColumn() columns!: RollColumn[];
  @JsonColumn({ nullable: true }) rollKey!: string[] | null;
  /** Goes up with every change to the roll. */
  @Column({ type: 'int', default: 1 }) rollVersion!: number;
  @InstantColumn() createdAt!: Date;
  @InstantColumn() changedAt!: Date;
  /** Null where no person did. */
  @IdColumn({ nullable: true }) changedBy!: string | null;
  /** Set for one that is put away. */
  @InstantColumn({ nullable: true }) archivedAt!: Date | null;
}

/** Where columns of the roll came from. */
@Entity('source')
export class SourceRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 255 }) fileName!: string;
  @HashColumn() blobHash!: string;
  @Column({ type: 'int' }) rows!: number;
  @JsonColumn() notes!: SheetNote[];
  @InstantColumn() broughtInAt!: Date;
  @Column({ type: 'varchar', length: 20 }) kind!: 'base' | 'joined';
  @JsonColumn({ nullable: true }) reading!: Reading | null;
  /** The columns of a joined source's rows. */
  @JsonColumn({ nullable: true }) columns!: RollColumn[] | null;
  @JsonColumn({ nullable: true }) joinSpec!: JoinSpec | null;
}

/** One row of a roll. */
@Entity('entry')
export class EntryRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'int' }) position!: number;
  @JsonColumn() values!: Record<string, string>;
  @JsonColumn({ nullable: true }) exact!: Record<string, string> | null;
  @JsonColumn({ nullable: true }) mends!: Record<string, SourceCell> | null;
  @Column({ type: 'varchar', length: 300, nullable: true }) leftOut!: string | null;
  @Column({ type: 'boolean' }) gone!: boolean;
  @Column({ type: 'boolean' }) byHand!: boolean;
  /** The form that the entry is an answer to. */
  @IdColumn({ nullable: true }) answered!: string | null;
  @JsonColumn({ nullable: true }) tables!: Record<string, string[][]> | null;
}

/** The roll as it was before a larger change: the compressed JSON of its columns, entries and sources. */
@Entity('roll_earlier')
export class EarlierRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 300 }) what!: string;
  @InstantColumn() at!: Date;
  @Column({ type: 'int' }) versionAfter!: number;
  /** The change after it was made by no person. */
  @Column({ type: 'boolean', default: false }) byItself!: boolean;
  @Column({ type: 'longblob' }) state!: Buffer;
}

/** A picture that a template may show. */
@Entity('asset')
export class AssetRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 255 }) name!: string;
  @Column({ type: 'varchar', length: 100 }) mime!: string;
  @HashColumn() blobHash!: string;
  /** Of a PDF that can be the ground of pages; null for pictures. */
  @JsonColumn({ nullable: true }) about!: GroundAbout | null;
  /** A file of any kind that goes along with messages, and stands on no paper. */
  @Column({ type: 'boolean', default: false }) along!: boolean;
}

/** Bytes, addressed by their SHA-256. */
@Entity('blob_file')
export class BlobRow {
  @PrimaryColumn({ type: 'varchar', length: 40 }) schoolId!: string;
  @PrimaryColumn({ type: 'char', length: 64 }) hash!: string;
  @Column({ type: 'longblob' }) bytes!: Buffer;
}
