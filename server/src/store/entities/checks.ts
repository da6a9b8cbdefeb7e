import type { FitState } from '@scriptum/core/page';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { HashKey, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** What a paper of one look comes to, as the typesetter found out. */
@Entity('checked_look')
export class CheckedLookRow {
  @IdKey() folioId!: string;
  @HashKey() lookHash!: string;
  @IdColumn() schoolId!: string;
  /** 0 where it cannot be set. */
  @Column({ type: 'int' }) pages!: number;
  /** Boxes, by their places in the template, whose text does not simply fit. */
  @JsonColumn() fits!: { readonly box: number; readonly state: FitState }[];
  /** Why it cannot be set; null where it can. */
  @Column({ type: 'varchar', length: 1000, nullable: true }) failed!: string | null;
  @InstantColumn() checkedAt!: Date;
}

/** Somebody has looked at a finding and said that it is right. */
@Entity('seen_finding')
export class SeenFindingRow {
  @IdKey() folioId!: string;
  /** Names the finding with the value that it is about (`markOf`). */
  @PrimaryColumn({ type: 'char', length: 32 }) mark!: string;
  @IdColumn() schoolId!: string;
  @IdColumn({ nullable: true }) staffId!: string | null;
  @InstantColumn() seenAt!: Date;
}
