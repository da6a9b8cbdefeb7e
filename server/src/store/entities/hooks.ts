import type { HookShape } from '@scriptum/core/hook';
import { Column, Entity } from 'typeorm';
import { IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** A door for answers from another service. What comes by it is kept as an answer, as those to forms are. */
@Entity('hook')
export class HookRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @Column({ type: 'varchar', length: 200 }) name!: string;
  /** Stands in its address. */
  @IdColumn() token!: string;
  @Column({ type: 'boolean' }) isOn!: boolean;
  /** The keys that submissions are signed with, sealed: the present one, and the one before it for some days. */
  @Column({ type: 'varchar', length: 500 }) sealedKey!: string;
  @Column({ type: 'varchar', length: 500, nullable: true }) formerKey!: string | null;
  @InstantColumn({ nullable: true }) formerUntil!: Date | null;
  @JsonColumn() shape!: HookShape;
  @Column({ type: 'int', default: 0 }) answers!: number;
  @InstantColumn({ nullable: true }) lastAt!: Date | null;
  @Column({ type: 'varchar', length: 500, nullable: true }) refused!: string | null;
  @InstantColumn({ nullable: true }) refusedAt!: Date | null;
  @InstantColumn() createdAt!: Date;
}
