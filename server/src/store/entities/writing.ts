import type { WritingContent, WritingKind } from '@scriptum/core/template';
import { Column, Entity } from 'typeorm';
import { IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** One thing that people write in a folio: a letter, a cover note, the pattern of file names. */
@Entity('writing')
export class WritingRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 20 }) kind!: WritingKind;
  @Column({ type: 'varchar', length: 200 }) name!: string;
  /** Its order among the others of its kind. */
  @Column({ type: 'int' }) place!: number;
  @Column({ type: 'int' }) version!: number;
  @JsonColumn() content!: WritingContent;
  @InstantColumn() changedAt!: Date;
  /** Null where no person did. */
  @IdColumn({ nullable: true }) changedBy!: string | null;
  /** Set for one that was deleted and can be had back. */
  @InstantColumn({ nullable: true }) deletedAt!: Date | null;
}

/** A writing as papers or messages were made from it, or as somebody wanted it kept. Never changes. */
@Entity('writing_version')
export class WritingVersionRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() writingId!: string;
  /** Null for a copy that never was the writing's own version. */
  @Column({ type: 'int', nullable: true }) version!: number | null;
  @Column({ type: 'varchar', length: 200, nullable: true }) name!: string | null;
  @JsonColumn() content!: WritingContent;
  @InstantColumn() keptAt!: Date;
  @IdColumn({ nullable: true }) keptBy!: string | null;
}
