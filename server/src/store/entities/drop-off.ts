import type { DropPlace } from '@scriptum/core/contract';
import { Column, Entity } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** Where papers of a folio go as files too. */
@Entity('drop_off')
export class DropOffRow {
  @IdKey() folioId!: string;
  @IdColumn() schoolId!: string;
  @JsonColumn() place!: DropPlace;
  /** Why nothing goes there just now. */
  @Column({ type: 'varchar', length: 1000, nullable: true }) fault!: string | null;
  @InstantColumn({ nullable: true }) checkedAt!: Date | null;
}

/** A paper that lies there. */
@Entity('dropped')
export class DroppedRow {
  @IdKey() paperId!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 1100 }) path!: string;
  /** SHA-256 of the file as it was put there. */
  @HashColumn() hash!: string;
  @InstantColumn() at!: Date;
}
