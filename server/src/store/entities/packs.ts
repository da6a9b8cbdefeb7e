import type { PackAsked, PackState } from '@scriptum/core/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** A paper in a pack, as it is kept. */
export interface KeptLine {
  readonly paperId: string;
  readonly group: string | null;
  readonly copies: number;
  readonly page: number | null;
  /** ISO 8601; when it joined one that grows. */
  readonly joinedAt: string | null;
}

/** Many papers in one file. The file stands in parts. */
@Entity('pack')
export class PackRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @JsonColumn() asked!: PackAsked;
  @Column({ type: 'varchar', length: 20 }) state!: PackState;
  @Column({ type: 'int' }) papers!: number;
  /** Papers that are in it so far, while it is made. */
  @Column({ type: 'int' }) done!: number;
  @Column({ type: 'int' }) pages!: number;
  @Column({ type: 'bigint', transformer: { to: (n: number) => n, from: Number } }) bytes!: number;
  @Column({ type: 'varchar', length: 1000, nullable: true }) reason!: string | null;
  @IdColumn({ nullable: true }) staffId!: string | null;
  @InstantColumn() askedAt!: Date;
  @InstantColumn({ nullable: true }) endedAt!: Date | null;
  /** Names the parts that are its file; null where there is none yet. */
  @IdColumn({ nullable: true }) fileId!: string | null;
  @JsonColumn({ nullable: true, select: false }) contents?: KeptLine[] | null;
}

/** Some bytes of the file of a pack. */
@Entity('pack_part')
export class PackPartRow {
  @IdKey() fileId!: string;
  @PrimaryColumn({ type: 'int' }) n!: number;
  @IdColumn() packId!: string;
  @Column({ type: 'mediumblob' }) bytes!: Buffer;
}
