import type { Letterhead } from '@scriptum/core/template';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** A school's letterhead in one of its versions; the highest is the one in use. Never changes. */
@Entity('letterhead')
export class LetterheadRow {
  @IdKey() schoolId!: string;
  @PrimaryColumn({ type: 'int' }) version!: number;
  @JsonColumn() content!: Letterhead;
  @InstantColumn() changedAt!: Date;
  /** Null where no person did. */
  @IdColumn({ nullable: true }) changedBy!: string | null;
}

/** A crest or a scanned signature. */
@Entity('letterhead_picture')
export class LetterheadPictureRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @Column({ type: 'varchar', length: 255 }) name!: string;
  @Column({ type: 'varchar', length: 100 }) mime!: string;
  @HashColumn() blobHash!: string;
}
